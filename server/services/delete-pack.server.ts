import { selectRows, sequelize } from '../db/connection';
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
  const [pack] = await selectRows<{ name: string; archived: boolean }>(
    'select name, archived_at is not null as archived from packs where id = $1',
    [packId],
  );
  if (!pack) return { ok: false, message: 'There is no such pack.' };
  if (!pack.archived) return { ok: false, message: 'A pack is archived first, so that everybody has seen it go.' };
  const { hashes, loops, kept } = await sequelize.transaction(async (transaction) => {
    const run = async <T extends object>(sql: string): Promise<T[]> =>
        (await sequelize.query(sql, { bind: [packId], transaction }))[0] as T[],
      unused = 'pack_id = $1 and not exists (select 1 from clips c where c.loop_id = loops.id)';
    await run(`update import_files set loop_id = null where loop_id in (select id from loops where ${unused})`);
    const gone = await run<{ file: string; sound: string }>(
        `delete from loops where ${unused} returning file_sha256 as file, sound_sha256 as sound`,
      ),
      [{ left }] = await run<{ left: number }>('select count(*)::int as left from loops where pack_id = $1');
    if (left === 0) {
      await run('update import_batches set pack_id = null where pack_id = $1');
      await run('delete from packs where id = $1');
    }
    return { hashes: gone.flatMap(({ file, sound }) => [file, sound]), loops: gone.length, kept: left };
  });
  const files = await dropUnreferred(hashes);
  await recordActivity(personId, 'deleted for good', 'pack', null, { name: pack.name, loops });
  await announceLibrary();
  return { ok: true, loops, files, kept };
}
