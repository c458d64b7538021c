import { selectRows, sequelize } from '../db/connection';
import {
  deletePackSql,
  deleteUnusedSql,
  documentsOfPackSql,
  forgetPackSql,
  forgetUnusedSql,
  loopsLeftSql,
  packToDeleteSql,
} from '../db/queries/delete-pack';
import { inTransaction } from '../db/transaction';
import { announceLibrary } from '../events/announce.server';
import { dropUnreferred } from '../storage/keeping.server';
import { recordActivity } from './people.server';

export type DeleteResult =
  | { readonly ok: true; readonly loops: number; readonly files: number; readonly kept: number }
  | { readonly ok: false; readonly message: string };

/**
 * Deletes an archived pack for good: its loops, what is known of them, and their files where nothing else refers to them. Loops that a project
 * uses stay, and the pack with them.
 */
export async function deletePackForGood(packId: number, personId: number): Promise<DeleteResult> {
  const [pack] = await selectRows<{ name: string; archived: boolean }>(packToDeleteSql, [packId]);
  if (!pack) return { ok: false, message: 'There is no such pack.' };
  if (!pack.archived) return { ok: false, message: 'A pack is archived first, so that everybody has seen it go.' };
  const { hashes, loops, kept } = await inTransaction(async (transaction) => {
    const run = async <T extends object>(sql: string): Promise<T[]> =>
      (await sequelize.query(sql, { bind: [packId], transaction }))[0] as T[];
    await run(forgetUnusedSql);
    const gone = await run<{ file: string; sound: string }>(deleteUnusedSql),
      [{ left }] = await run<{ left: number }>(loopsLeftSql);
    let documents: string[] = [];
    if (left === 0) {
      documents = (await run<{ file: string }>(documentsOfPackSql)).map(({ file }) => file);
      await run(forgetPackSql);
      await run(deletePackSql);
    }
    return { hashes: [...gone.flatMap(({ file, sound }) => [file, sound]), ...documents], loops: gone.length, kept: left };
  });
  const files = await dropUnreferred(hashes);
  await recordActivity(personId, 'deleted for good', 'pack', null, { name: pack.name, loops });
  await announceLibrary();
  return { ok: true, loops, files, kept };
}
