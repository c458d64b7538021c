import { isDeepStrictEqual } from 'node:util';
import { allParts, outdatedParts, partVersions, type Part, type PartVersions } from '~core/analysis/parts';
import { isSaidBy } from '~core/analysis/said-by';
import type { Reading } from '~core/analysis/tempo/read-rhythm';
import { selectRows } from '../db/connection';
import { outdatedLoopsSql, outdatedOfPackSql, storedLoopSql } from '../db/queries/reanalysis';
import { announceLoops } from '../events/announce.server';
import { addJobs } from '../jobs/queue.server';
import { renewInPool } from '../jobs/pool/pool.server';
import { settleContext } from './context.server';
import { activeEvidence, renewParts } from './facts.server';

/** What all parts are today, as loops keep it. */
const partsNow = JSON.stringify(partVersions);

/** Queues every loop that an older analyser heard. Safe to call at each start: a loop is queued once. */
export async function queueOutdatedLoops(): Promise<number> {
  const rows = await selectRows<{ id: number }>(outdatedLoopsSql, [partsNow]);
  await addJobs(
    'analyse-again',
    rows.map(({ id }) => ({ payload: { loopId: id }, key: `analyse-again-${id}` })),
  );
  return rows.length;
}

/** Queues loops that a person wants to be heard anew, from the file on; behind everything that comes in. @returns how many */
export async function hearAnew(loopIds: readonly number[]): Promise<number> {
  await addJobs(
    'analyse-again',
    loopIds.map((loopId) => ({ payload: { loopId, whole: true }, key: `analyse-whole-${loopId}` })),
  );
  return loopIds.length;
}

/** Hears again what the analyser has changed since it heard a loop, and what is told by that. A person's word stays in force. */
export async function analyseAgain(loopId: number, whole = false): Promise<void> {
  const loop = await storedLoop(loopId);
  if (!loop || (!whole && outdatedParts(loop.heardBy).size === 0)) return;
  // Of silence nothing was kept by which a part could be told.
  await hearAgain(loop, loop.readings && !whole ? outdatedParts(loop.heardBy) : allParts);
  if (whole) await announceLoops([loopId]);
  // The last loop of a pack lets all of them speak for each other.
  const [left] = await selectRows<{ count: number }>(outdatedOfPackSql, [partsNow, loop.packId]);
  if (left.count === 0) await settleContext(loop.packId);
}

/**
 * After a person's word on kind, tempo, beats, meter or the first bar, or a tempo that a loop's pack turned: bars, chords, accents and whatever else is
 * told by them are heard anew. Facts stay as they are.
 */
export async function tellBarsAnew(loopId: number): Promise<void> {
  const loop = await storedLoop(loopId);
  // One that an older analyser heard is queued to be heard again, with all that is said of it; notes are told by what is written, and silence by nothing.
  if (!loop || outdatedParts(loop.heardBy).size > 0 || loop.media !== 'audio' || !loop.readings) return;
  await hearAgain(loop, new Set<Part>(['bars']));
  await announceLoops([loopId]);
}

interface StoredLoop {
  readonly id: number;
  readonly media: string;
  readonly fileSha: string;
  readonly vendorPath: string;
  readonly packId: number;
  readonly heardBy: PartVersions;
  /** Null for silence, and for what was never heard. */
  readonly readings: readonly Reading[] | null;
}

async function storedLoop(loopId: number): Promise<StoredLoop | undefined> {
  const [loop] = await selectRows<StoredLoop>(storedLoopSql, [loopId]);
  return loop;
}

/** So often at most a loop is heard in a row because people go on speaking of it. */
const mostRounds = 5;

/**
 * Hears parts of a loop by what is said of it, once more where other things are said by the time that it is done.
 * A file that could be read once and cannot now is a fault of the disk, not of the loop: the job is tried again.
 */
async function hearAgain({ id, media, fileSha, vendorPath, readings }: StoredLoop, outdated: ReadonlySet<Part>): Promise<void> {
  // Of notes all is told at once.
  const wanted = media === 'midi' ? allParts : outdated,
    said = async () => ((await activeEvidence([id])).get(id) ?? []).filter((each) => !isSaidBy(wanted, each));
  let evidence = await said();
  for (let round = 0; round < mostRounds; round++) {
    const result = await renewInPool({
      fileSha256: fileSha,
      vendorPath,
      parts: wanted,
      given: { evidence, readings: wanted.has('rhythm') ? null : readings },
    });
    if (!result.ok) throw new Error(`loop ${id} could not be heard again: ${result.message}`);
    await renewParts(id, wanted, result);
    const now = await said();
    if (isDeepStrictEqual(now, evidence)) return;
    evidence = now;
  }
}
