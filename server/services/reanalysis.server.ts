import { analyserVersion } from '~core/analysis/facts';
import { selectRows } from '../db/connection';
import { announce } from '../http/events.server';
import { addJobs } from '../jobs/queue.server';
import { analyseAgainInPool } from '../jobs/pool/pool.server';
import { storage } from '../storage/storage.server';
import { settleContext } from './context.server';
import { activeEvidence, renewAnalysis, renewDetail } from './facts.server';

/** Queues every loop that an older analyser heard. Safe to call at each start: a loop is queued once. */
export async function queueOutdatedLoops(): Promise<number> {
  const rows = await selectRows<{ id: number }>('select id from loops where analyser_version < $1 order by id', [analyserVersion]);
  await addJobs(
    'analyse-again',
    rows.map(({ id }) => ({ payload: { loopId: id }, key: `analyse-again-${id}` })),
  );
  return rows.length;
}

/** Hears a loop anew. What was found before is kept as superseded; a person's word stays in force. */
export async function analyseAgain(loopId: number): Promise<void> {
  const [loop] = await selectRows<{ fileSha: string; vendorPath: string; packId: number }>(
    'select file_sha256 as "fileSha", vendor_path as "vendorPath", pack_id as "packId" from loops where id = $1 and analyser_version < $2',
    [loopId, analyserVersion],
  );
  if (!loop) return;
  const result = await hearAgain(loopId, loop);
  await renewAnalysis(loopId, result);
  // The last loop of a pack lets all of them speak for each other.
  const [left] = await selectRows<{ count: number }>(
    'select count(*)::int as count from loops where analyser_version < $1 and pack_id = $2',
    [analyserVersion, loop.packId],
  );
  if (left.count === 0) await settleContext(loop.packId);
}

/**
 * After a person's word on kind, tempo, beats, meter or the first bar, or a tempo that a loop's pack turned: bars, chords, accents and whatever else is
 * told by them are heard anew. Facts stay as they are.
 */
export async function tellBarsAnew(loopId: number): Promise<void> {
  const [loop] = await selectRows<{ fileSha: string; vendorPath: string }>(
    'select file_sha256 as "fileSha", vendor_path as "vendorPath" from loops where id = $1 and analyser_version = $2 and media = \'audio\'',
    [loopId, analyserVersion],
  );
  // One that an older analyser heard is queued to be heard again, with all that is said of it; notes are told by what is written.
  if (!loop) return;
  const result = await hearAgain(loopId, loop);
  await renewDetail(loopId, result.measures);
  await announce({ kind: 'library', id: loopId });
}

/** Heard with what persons, its set and its pack say of it. A file that could be read once and cannot now is a fault of the disk, not of the loop: the job is tried again. */
async function hearAgain(loopId: number, { fileSha, vendorPath }: { readonly fileSha: string; readonly vendorPath: string }) {
  const all = (await activeEvidence([loopId])).get(loopId) ?? [],
    said = all.filter(({ source }) => source === 'person' || source === 'set' || source === 'pack'),
    result = await analyseAgainInPool({ filePath: storage.path(fileSha), vendorPath, said });
  if (!result.ok) throw new Error(`loop ${loopId} could not be heard again: ${result.message}`);
  return result;
}
