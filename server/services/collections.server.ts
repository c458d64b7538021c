import type { Transaction } from 'sequelize';
import { selectRows, sequelize } from '../db/connection';
import {
  changeCollectionSql,
  collectedSql,
  newCollectionSql,
  orderCollectedSql,
  ownCollectionSql,
  wouldTurnSql,
  collectionsSql,
  collectAtSql,
  collectSql,
  findOrMakeCollectionSql,
  placeInCollectionSql,
  uncollectSql,
} from '../db/queries/collections';
import { inTransaction } from '../db/transaction';

/** What a person keeps together, by hand or by a rule; all can look at it but where it is kept to oneself. */
export interface CollectionLine {
  readonly id: number;
  readonly name: string;
  readonly person: string;
  readonly personId: number;
  readonly loops: number;
  /** The search whose loops it holds; null for one by hand. */
  readonly rule: string | null;
  /** The collection in which it lies. */
  readonly parentId: number | null;
  readonly isPrivate: boolean;
}

/** Collections that a person may see: all but what others keep to themselves. */
export const listCollections = (personId: number): Promise<CollectionLine[]> => selectRows<CollectionLine>(collectionsSql, [personId]);

/** Where a loop lies in a collection; `position` null: not in it. */
export interface CollectedPlace {
  readonly collectionId: number;
  readonly position: number | null;
}

/** Puts a loop into a person's collection of a name, or takes it out. @returns where it was in there before */
export async function setCollected(
  {
    name,
    personId,
    loopId,
    isWanted,
  }: { readonly name: string; readonly personId: number; readonly loopId: number; readonly isWanted: boolean },
  transaction: Transaction,
): Promise<CollectedPlace> {
  const [[{ id }]] = (await sequelize.query(findOrMakeCollectionSql, { bind: [name, personId], transaction })) as [
      { id: number }[],
      unknown,
    ],
    [rows] = await sequelize.query(placeInCollectionSql, { bind: [id, loopId], transaction }),
    [was] = rows as { position: number }[];
  await sequelize.query(isWanted ? collectSql : uncollectSql, { bind: [id, loopId], transaction });
  return { collectionId: id, position: was?.position ?? null };
}

/** Puts a loop back to where it was in a collection, whatever that is called by now, or out of it. */
export async function collectAsBefore(loopId: number, { collectionId, position }: CollectedPlace, transaction: Transaction): Promise<void> {
  if (position === null) await sequelize.query(uncollectSql, { bind: [collectionId, loopId], transaction });
  else await sequelize.query(collectAtSql, { bind: [collectionId, loopId, position], transaction });
}

/** What is wrong with laying a collection into another, in words; null for nothing. */
async function wrongParent(parentId: number, personId: number): Promise<string | null> {
  return (await selectRows(ownCollectionSql, [parentId, personId])).length > 0 ? null : 'A collection lies in another of one’s own.';
}

/** Makes a collection, by hand or by a rule. @returns its number, or what is wrong in words */
export async function makeCollection(
  personId: number,
  name: string,
  { rule = null, parentId = null }: { readonly rule?: string | null; readonly parentId?: number | null },
): Promise<{ readonly id: number } | string> {
  const wrong = parentId ? await wrongParent(parentId, personId) : null;
  if (wrong !== null) return wrong;
  try {
    const [made] = await selectRows<{ id: number }>(newCollectionSql, [name, personId, rule, parentId]);
    return made;
  } catch (error) {
    if ((error as Error).name === 'SequelizeUniqueConstraintError' || (error as { code?: string }).code === '23505')
      return 'You have a collection of that name already.';
    throw error;
  }
}

/** So many of a collection are shown in its order. */
const mostShown = 500;

/** Ids of a collection by hand, in its own order. */
export const collectedIds = async (id: number): Promise<number[]> =>
  (await selectRows<{ id: number }>(collectedSql, [id, mostShown])).map((row) => row.id);

/** Puts the loops of a collection into an order. */
export async function orderCollected(id: number, loopIds: readonly number[]): Promise<void> {
  // Its rows are locked as they lie, which is another order for who puts them into another.
  await inTransaction((transaction) => sequelize.query(orderCollectedSql, { bind: [id, [...loopIds]], transaction }));
}

/** Renames a collection, puts it away or brings it back. @returns what is wrong, in words; null when it is done */
export async function changeCollection(
  id: number,
  personId: number,
  {
    name = null,
    isArchived = null,
    isPrivate = null,
    parentId = null,
  }: {
    readonly name?: string | null;
    readonly isArchived?: boolean | null;
    readonly isPrivate?: boolean | null;
    /** 0: out of every other one. */
    readonly parentId?: number | null;
  },
): Promise<string | null> {
  const wrong = parentId ? await wrongParent(parentId, personId) : null;
  if (wrong !== null) return wrong;
  try {
    if (parentId && (await selectRows(wouldTurnSql, [id, parentId])).length > 0) return 'A collection cannot lie in itself.';
    const rows = await selectRows(changeCollectionSql, [id, personId, name, isArchived, isPrivate, parentId]);
    return rows.length > 0 ? null : 'A collection is its own person’s to change.';
  } catch (error) {
    if ((error as Error).name === 'SequelizeUniqueConstraintError') return 'You have a collection of that name already.';
    throw error;
  }
}
