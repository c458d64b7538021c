import type { ClipOverrides } from '~core/arrangement/fit-settings';
import type { WholeLoop } from '~contracts/whole-loop';
import { selectRows } from '../db/connection';
import { forgetHeardSql, heardSql, hearOnSql, hearSql, lastHeardSql } from '../db/queries/heard';
import { findRowsById } from './search.server';

/** What was heard, and how: to be heard so again. */
export interface Hearing {
  readonly loopId: number;
  readonly projectId: number | null;
  /** What was done to it beyond making it fit. */
  readonly overrides: Partial<ClipOverrides>;
  readonly offsetBeats: number;
}

/** Keeps what a person hears; the same loop in the same project right after is one hearing. */
export async function keepHearing(personId: number, { loopId, projectId, overrides, offsetBeats }: Hearing): Promise<void> {
  const [last] = await selectRows<{ id: string; loopId: number; projectId: number | null }>(lastHeardSql, [personId]),
    done = JSON.stringify(overrides);
  if (last?.loopId === loopId && last.projectId === projectId) return void (await selectRows(hearOnSql, [last.id, done, offsetBeats]));
  await selectRows(hearSql, [personId, loopId, projectId, done, offsetBeats]);
  await selectRows(forgetHeardSql, [personId]);
}

export interface HeardLine {
  readonly id: string;
  readonly row: WholeLoop;
  readonly projectId: number | null;
  readonly projectName: string | null;
  readonly overrides: Partial<ClipOverrides>;
  readonly offsetBeats: number;
  readonly at: string;
}

/** So many hearings are shown. */
export const heardAtOnce = 200;

/** What a person heard, the latest first. */
export async function listHeard(personId: number, limit = heardAtOnce): Promise<HeardLine[]> {
  const found = await selectRows<Omit<HeardLine, 'row' | 'at'> & { loopId: number; at: Date }>(heardSql, [personId, limit]),
    rows = new Map((await findRowsById([...new Set(found.map(({ loopId }) => loopId))], personId)).map((row) => [row.id, row]));
  return found.flatMap(({ loopId, at, ...line }) => {
    const row = rows.get(loopId);
    return row ? [{ ...line, row, at: at.toISOString() }] : [];
  });
}
