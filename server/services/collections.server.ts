import type { Transaction } from 'sequelize';
import { selectRows, sequelize } from '../db/connection';
import {
  changeCollectionSql,
  collectionsSql,
  collectSql,
  findOrMakeCollectionSql,
  isCollectedSql,
  uncollectSql,
} from '../db/queries/collections';

/** What a person keeps together by hand; all can look at it. */
export interface CollectionLine {
  readonly id: number;
  readonly name: string;
  readonly person: string;
  readonly personId: number;
  readonly loops: number;
}

/** Collections that a person may see: all but what others keep to themselves. */
export const listCollections = (personId: number): Promise<CollectionLine[]> => selectRows<CollectionLine>(collectionsSql, [personId]);

/** Puts a loop into a person's collection of a name, or takes it out. @returns whether it was in there before */
export async function setCollected(
  {
    name,
    personId,
    loopId,
    isWanted,
  }: { readonly name: string; readonly personId: number; readonly loopId: number; readonly isWanted: boolean },
  transaction: Transaction,
): Promise<boolean> {
  const [was] = await sequelize.query(isCollectedSql, { bind: [personId, name, loopId], transaction }),
    [[{ id }]] = (await sequelize.query(findOrMakeCollectionSql, { bind: [name, personId], transaction })) as [{ id: number }[], unknown];
  await sequelize.query(isWanted ? collectSql : uncollectSql, { bind: [id, loopId], transaction });
  return was.length > 0;
}

/** Renames a collection, puts it away or brings it back. @returns what is wrong, in words; null when it is done */
export async function changeCollection(
  id: number,
  personId: number,
  { name = null, isArchived = null }: { readonly name?: string | null; readonly isArchived?: boolean | null },
): Promise<string | null> {
  try {
    const rows = await selectRows(changeCollectionSql, [id, personId, name, isArchived]);
    return rows.length > 0 ? null : 'A collection is its own person’s to change.';
  } catch (error) {
    if ((error as Error).name === 'SequelizeUniqueConstraintError') return 'You have a collection of that name already.';
    throw error;
  }
}
