import pRetry from 'p-retry';
import type { Transaction } from 'sequelize';
import { sequelize } from './connection';

/** PostgreSQL's own for a transaction that it has ended so that others can go on: `deadlock_detected`, `serialization_failure`. */
const collisionCodes: ReadonlySet<unknown> = new Set(['40P01', '40001']);

/** Apart by chance, so that the two do not meet again. */
const patience = { retries: 4, minTimeout: 50, factor: 2, randomize: true };

/** Whether an error says no more than that two came into each other's way: at another try it may pass. */
export const isCollision = (error: unknown): boolean =>
  error instanceof Error && 'parent' in error && collisionCodes.has((error.parent as { code?: unknown } | null)?.code);

/**
 * Writes several things together, all or none. Of two that wait for each other the database ends one: it begins again.
 * @param work done anew from its beginning at each try: what it does outside of the transaction has to bear that
 * @throws what `work` throws, or the last collision where it never came through
 */
export const inTransaction = <T>(work: (transaction: Transaction) => Promise<T>): Promise<T> =>
  pRetry(() => sequelize.transaction(work), { ...patience, shouldRetry: ({ error }) => isCollision(error) });
