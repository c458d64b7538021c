import type { OutsideLoop } from '~contracts/outside';
import type { Readable } from 'node:stream';
import { numberedPath } from '~core/names/numbered-path';
import { safePath } from '~core/names/safe-path';
import { selectRows, sequelize } from '../../db/connection';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { missingTakenSql, packOfOutsideSql, rememberTakenSql } from '../../db/queries/exchange';
import { inTransaction } from '../../db/transaction';
import { announce } from '../../events/announce.server';
import { OutsideError, type ExchangeSource, type OutsidePack } from '../../exchange/source';
import { exchangeSource } from '../../exchange/sources.server';
import { addJob, type TakePayload } from '../../jobs/queue.server';
import { receiveFile, recordFile, startBatch } from '../imports/receive.server';
import { keyOf } from './keys.server';
import { markTaken } from './search.server';
import { rememberOutside } from './hear.server';

/** What to take: some loops, or with null a whole pack, as one zip. */
export type Wanted = Pick<TakePayload, 'packId' | 'loopIds'>;

/** The places of a pack's loops in the batch that they are taken with, by their ids out there: two of one name lie beside each other. */
function pathsOf(pack: OutsidePack, { loopIds }: Wanted): ReadonlyMap<string, string> {
  const taken = new Set<string>(),
    placed = (loop: OutsideLoop): string => {
      const wanted = safePath(loopIds === null ? `${pack.title}/${loop.fileName}` : loop.fileName) ?? loop.id,
        path = numberedPath(wanted, taken);
      taken.add(path);
      return path;
    };
  return new Map(pack.loops.map((loop) => [loop.id, placed(loop)]));
}

const chosenOf = (pack: OutsidePack, { loopIds }: Wanted): readonly OutsideLoop[] =>
  loopIds === null ? pack.loops : pack.loops.filter(({ id }) => loopIds.includes(id));

/**
 * Begins to take loops: a batch is opened in the way that all imports go, with author, licence and the page's address, and a job fetches the
 * files. @returns its number; null when there is nothing of that @throws {OutsideError}
 */
export async function takeOutside(source: ExchangeSource, wanted: Wanted, personId: number): Promise<number | null> {
  if ((await keyOf(personId, source.id)) === null)
    throw new OutsideError('refused', `To take files from ${source.name} it needs your key there. Enter it on this page.`);
  const pack = await source.pack(wanted.packId),
    chosen = chosenOf(pack, wanted);
  if (chosen.length === 0) return null;
  const [before] = await selectRows<{ id: number }>(packOfOutsideSql, [source.id, pack.id]);
  const batchId = await inTransaction(async (transaction) => {
    const batch = await ImportBatch.create(
      {
        packName: pack.title,
        vendor: pack.author,
        licence: pack.licence,
        description: `${pack.about} From ${source.name}: ${pack.pageUrl}`,
        personId,
        state: 'receiving',
        packId: before?.id ?? null,
      },
      { transaction },
    );
    const paths = pathsOf(pack, wanted);
    for (const loop of chosen)
      await sequelize.query(rememberTakenSql, {
        bind: [batch.id, paths.get(loop.id), await rememberOutside(source.id, loop)],
        transaction,
      });
    await addJob('take-outside', { batchId: batch.id, source: source.id, personId, ...wanted }, `take-${batch.id}`, transaction);
    return batch.id;
  });
  await announce({ kind: 'import', batchId });
  return batchId;
}

/** So many pages of results are walked through: what is more is for a narrower search. */
const mostPages = 40;

/** Begins to take all that a search finds and is not here yet, a batch a pack. @returns how many loops @throws {OutsideError} */
export async function takeFoundOutside(
  source: ExchangeSource,
  query: { readonly words: string; readonly category: string },
  personId: number,
): Promise<number> {
  const packs = new Map<string, string[]>();
  let loops = 0;
  for (let page = 0, pages = 1; page < Math.min(pages, mostPages); page++) {
    const found = await source.search({ ...query, page });
    pages = found.pages;
    for (const { id, packId, loopId } of await markTaken(source.id, found.loops)) {
      if (loopId !== null) continue;
      packs.set(packId, [...(packs.get(packId) ?? []), id]);
      loops++;
    }
  }
  for (const [packId, loopIds] of packs) await takeOutside(source, { packId, loopIds }, personId);
  return loops;
}

/** The job: fetches what is not here yet, and lets the import begin. What may pass is thrown, so that it is tried again later. */
export async function fetchTaken(payload: TakePayload): Promise<void> {
  const { batchId, personId } = payload,
    source = exchangeSource(payload.source);
  if (!(await ImportBatch.findOne({ where: { id: batchId, state: 'receiving' } }))) return;
  if (!source) return failTaking(payload);
  const token = (await keyOf(personId, source.id)) ?? '',
    pack = await source.pack(payload.packId);
  if (payload.loopIds === null) {
    await fetchFile(batchId, personId, safePath(`${pack.title}.zip`) ?? `${pack.id}.zip`, () => source.packZip(pack.id, token));
  } else {
    const paths = pathsOf(pack, payload);
    for (const loop of chosenOf(pack, payload))
      await fetchFile(batchId, personId, paths.get(loop.id) ?? loop.id, () => source.file(loop.id, token));
  }
  await startBatch(batchId, personId);
}

/** One file, once. What stays so becomes its row, in words. */
async function fetchFile(batchId: number, personId: number, path: string, open: () => Promise<Readable>): Promise<void> {
  if (await ImportFile.findOne({ where: { batchId, path } })) return;
  try {
    const result = await receiveFile(batchId, personId, path, await open());
    if (!result.ok) await recordFile({ batchId, path, bytes: 0, state: 'failed', message: result.message });
  } catch (error) {
    if (!(error instanceof OutsideError) || error.kind === 'unreachable') throw error;
    await recordFile({ batchId, path, bytes: 0, state: 'failed', message: error.message });
  }
  await announce({ kind: 'import', batchId });
}

/** After the last try: what did not come is told file by file, what came is imported. */
export async function failTaking({ batchId, source, personId, loopIds }: TakePayload): Promise<void> {
  const name = exchangeSource(source)?.name ?? source,
    message = `${name} did not answer for a long time. Take it again when it does.`,
    paths = loopIds === null ? ['the pack'] : await missingPaths(batchId);
  if (!(await ImportBatch.findOne({ where: { id: batchId, state: 'receiving' } }))) return;
  for (const path of paths) await recordFile({ batchId, path, bytes: 0, state: 'failed', message });
  await startBatch(batchId, personId);
}

async function missingPaths(batchId: number): Promise<string[]> {
  return (await selectRows<{ path: string }>(missingTakenSql, [batchId])).map(({ path }) => path);
}
