import { createReadStream } from 'node:fs';
import { rm } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { BaseError, ConnectionError, Op, type Transaction } from 'sequelize';
import { sequelize } from '../../db/connection';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { Loop, Pack } from '../../db/models/library';
import { announce } from '../../http/events.server';
import { analyseInPool, TaskEnded } from '../../jobs/pool/pool.server';
import type { AnalyseResult } from '../../jobs/pool/protocol';
import { dropUnreferred, keepFile } from '../../storage/keeping.server';
import { storage } from '../../storage/storage.server';
import { settleContext } from '../context.server';
import { addLoop } from '../loops.server';
import { recordActivity } from '../people.server';
import { noRoomWords } from './receive.server';
import { importTasks } from './stop.server';

/** The job for one file: decode, analyse, add. A broken file becomes a row that says why; the rest goes on. */
export async function analyseImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (!file?.fileSha256) return;
  const [taken] = await ImportFile.update({ state: 'working' }, { where: { id: fileId, state: { [Op.in]: ['queued', 'working'] } } });
  const batch = await ImportBatch.findByPk(file.batchId, { rejectOnEmpty: true });
  if (!taken || batch.state === 'cancelled') return;
  const twin = await Loop.findOne({ where: { fileSha256: file.fileSha256, archivedAt: null } });
  if (twin && !(twin.packId === batch.packId && twin.vendorPath === file.path))
    return endFile(file, { state: 'duplicate', loopId: twin.id, message: `the same file as “${twin.title}”` });
  try {
    const result = await analyseInPool(
      { filePath: storage.path(file.fileSha256), vendorPath: file.path },
      { name: importTasks(file.batchId), bytes: Number(file.bytes) },
    );
    if (result.ok) await addHeard(batch, file, result);
    else await endFile(file, { state: 'failed', message: result.message });
  } catch (error) {
    const message = lastingWords(error);
    if (message === null) throw error;
    if (!(error instanceof TaskEnded)) console.error(`${file.path} could not be taken in:`, error);
    await endFile(file, { state: 'failed', message });
  }
}

/** What will not pass at another try, in words; null for what may. */
function lastingWords(error: unknown): string | null {
  if (error instanceof TaskEnded)
    return error.reason === 'cancelled' ? 'the import was stopped' : 'Reading it took too long, and was given up.';
  if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
    return `${noRoomWords} The file itself may be fine: import it again when there is.`;
  return error instanceof BaseError && !(error instanceof ConnectionError)
    ? 'Something about the file does not fit into the library. It was left out; tell whoever keeps this server.'
    : null;
}

/** Adds what was heard as a loop, unless the import was stopped meanwhile: then nothing of it stays. */
async function addHeard(batch: ImportBatch, file: ImportFile, result: Extract<AnalyseResult, { ok: true }>): Promise<void> {
  const fileSha256 = file.fileSha256 as string,
    add = async (soundSha256: string, transaction: Transaction) => {
      const current = await ImportFile.findByPk(file.id, { lock: transaction.LOCK.UPDATE, transaction, rejectOnEmpty: true });
      if (current.state !== 'working') throw new TaskEnded('cancelled');
      const { loopId, twinTitle } = await addLoop(
        { packId: batch.packId as number, vendorPath: file.path, fileSha256, soundSha256, personId: batch.personId, result },
        transaction,
      );
      await current.update(
        twinTitle === null ? { state: 'done', loopId } : { state: 'duplicate', loopId, message: `the same file as “${twinTitle}”` },
        { transaction },
      );
      return finishIfDone(file.batchId, transaction);
    };
  const { sound } = result;
  if (sound === null) await settleFinished(await sequelize.transaction((transaction) => add(fileSha256, transaction)));
  else
    try {
      const source =
        typeof sound === 'string'
          ? createReadStream(sound)
          : Readable.from([Buffer.from(sound.buffer, sound.byteOffset, sound.byteLength)]);
      await settleFinished(await keepFile(source, ({ sha256 }, transaction) => add(sha256, transaction)));
    } finally {
      if (typeof sound === 'string') await rm(sound, { force: true });
    }
  // A sound of a loop that was a twin after all belongs to nobody.
  await dropUnreferred([fileSha256]);
  await announce({ kind: 'import', id: file.batchId });
}

type End = { readonly state: 'duplicate' | 'failed'; readonly message: string; readonly loopId?: number };

/** Closes a file that is being worked on; its bytes go when nobody else needs them. */
async function endFile(file: ImportFile, end: End): Promise<void> {
  const finished = await sequelize.transaction(async (transaction) => {
    await ImportFile.update({ ...end }, { where: { id: file.id, state: { [Op.in]: ['queued', 'working'] } }, transaction });
    // What is wrong with a file is wrong with its twins of the same batch, which point to it.
    if (end.state === 'failed' && file.fileSha256 !== null)
      await ImportFile.update(
        { state: 'failed', message: end.message },
        { where: { batchId: file.batchId, fileSha256: file.fileSha256, state: 'duplicate', loopId: null }, transaction },
      );
    return finishIfDone(file.batchId, transaction);
  });
  await dropUnreferred([file.fileSha256]);
  await settleFinished(finished);
  await announce({ kind: 'import', id: file.batchId });
}

interface Finished {
  readonly personId: number;
  readonly packId: number;
  readonly packName: string;
  readonly loops: number;
}

/** Closes a batch whose last file has ended, in the same transaction as that file; null while others are waited for. */
async function finishIfDone(batchId: number, transaction: Transaction): Promise<Finished | null> {
  // Files of a batch end one after the other here, so that the last one sees all others.
  await ImportBatch.findByPk(batchId, { lock: transaction.LOCK.UPDATE, transaction });
  const [rows] = await sequelize.query(
    `update import_batches b set state = 'done', finished_at = now() where id = $1 and state = 'analysing' and not exists (select 1 from import_files f where f.batch_id = b.id and f.state in ('queued', 'working'))
      returning person_id as "personId", pack_id as "packId", pack_name as "packName", (select count(*)::int from import_files f where f.batch_id = b.id and f.state = 'done' and f.loop_id is not null) as loops`,
    { bind: [batchId], transaction },
  );
  const [finished = null] = rows as Finished[];
  if (finished?.loops === 0 && (await Loop.count({ where: { packId: finished.packId }, transaction })) === 0)
    await Pack.update({ archivedAt: new Date() }, { where: { id: finished.packId }, transaction });
  return finished;
}

/** What follows when a batch is closed: its loops are seen together. */
async function settleFinished(finished: Finished | null): Promise<void> {
  if (!finished) return;
  await settleContext(finished.packId);
  await recordActivity(finished.personId, 'imported', 'pack', finished.packId, { name: finished.packName, loops: finished.loops });
  await announce({ kind: 'library', id: 0 });
}

/** Closes a batch in which nothing waits to be heard. */
export async function finishEmpty(batchId: number): Promise<void> {
  await settleFinished(await sequelize.transaction((transaction) => finishIfDone(batchId, transaction)));
}

/** A file whose job was given up: it failed, or ended the process, at every attempt. */
export async function failImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (file && ['queued', 'working'].includes(file.state))
    await endFile(file, {
      state: 'failed',
      message: 'The file could not be read, also at a fourth try. It may be damaged in an unusual way.',
    });
}
