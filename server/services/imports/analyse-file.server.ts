import { Readable } from 'node:stream';
import { BaseError, ConnectionError, type Transaction } from 'sequelize';
import { waitingFileStates } from '~core/imports/states';
import { sequelize } from '../../db/connection';
import { linkLoopSql } from '../../db/queries/packs';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { Loop } from '../../db/models/library';
import { inTransaction, isCollision } from '../../db/transaction';
import { announce } from '../../events/announce.server';
import { analyseInPool, TaskEnded } from '../../jobs/pool/pool.server';
import type { AnalyseResult } from '../../jobs/pool/protocol';
import type { StoredFile } from '../../storage/file-storage';
import { dropUnreferred, keepFile, keepStaged } from '../../storage/keeping.server';
import { log } from '../../log.server';
import { addLoop } from '../loops.server';
import { noRoomWords } from './receive.server';
import { settleUnlessWaiting } from './settle.server';
import { lockBatch, moveFiles } from './states.server';
import { importTasks } from './stop.server';

/** The job for one file: decode, analyse, add. A broken file becomes a row that says why; the rest goes on. */
export async function analyseImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (!file?.fileSha256) return;
  const batch = await ImportBatch.findByPk(file.batchId, { rejectOnEmpty: true });
  // Held, or for want of room, it stays where it is; who goes on with the batch queues it anew.
  if (batch.state === 'paused' || batch.state === 'failed') return void (await moveFiles({ id: fileId }, 'wait'));
  const taken = await moveFiles({ id: fileId }, 'work');
  if (!taken || batch.state === 'cancelled') return;
  const twin = await Loop.findOne({ where: { fileSha256: file.fileSha256, archivedAt: null } });
  if (twin && batch.duplicates !== 'keep' && !(twin.packId === batch.packId && twin.vendorPath === file.path))
    return endFile(file, 'know', { loopId: twin.id, message: twinWords(twin.title, await linkTwin(batch, file.path, twin)) });
  try {
    const result = await analyseInPool(
      { fileSha256: file.fileSha256, vendorPath: file.path },
      { name: importTasks(file.batchId), bytes: Number(file.bytes) },
    );
    if (result.ok) await addHeard(batch, file, result);
    else await endFile(file, 'fail', { message: result.message });
  } catch (error) {
    const message = lastingWords(error);
    if (message === null) throw error;
    if (!(error instanceof TaskEnded)) log.error(error, `${file.path} could not be taken in`);
    await endFile(file, 'fail', { message });
  }
}

const twinWords = (title: string, isLinked: boolean): string =>
  isLinked ? `the same file as “${title}”, which belongs to this pack as well now` : `the same file as “${title}”`;

/** Lets a loop that is there belong to the batch's pack as well, if that was asked for. */
async function linkTwin(
  { duplicates, packId }: ImportBatch,
  vendorPath: string,
  twin: { readonly id: number; readonly packId: number },
  transaction?: Transaction,
): Promise<boolean> {
  if (duplicates !== 'link' || packId === null || twin.packId === packId) return false;
  await sequelize.query(linkLoopSql, { bind: [packId, twin.id, vendorPath], transaction });
  return true;
}

/** What will not pass at another try, in words; null for what may. */
function lastingWords(error: unknown): string | null {
  if (error instanceof TaskEnded)
    return error.reason === 'cancelled' ? 'the import was stopped' : 'Reading it took too long, and was given up.';
  if ((error as NodeJS.ErrnoException).code === 'ENOSPC')
    return `${noRoomWords} The file itself may be fine: import it again when there is.`;
  return error instanceof BaseError && !(error instanceof ConnectionError) && !isCollision(error)
    ? 'Something about the file does not fit into the library. It was left out; tell whoever keeps this server.'
    : null;
}

/** Adds what was heard as a loop, unless the import was stopped meanwhile: then nothing of it stays. */
async function addHeard(batch: ImportBatch, file: ImportFile, result: Extract<AnalyseResult, { ok: true }>): Promise<void> {
  const fileSha256 = file.fileSha256 as string,
    add = async (soundSha256: string, transaction: Transaction) => {
      await lockBatch(file.batchId, transaction);
      const current = await ImportFile.findByPk(file.id, { lock: transaction.LOCK.UPDATE, transaction, rejectOnEmpty: true });
      if (current.state !== 'working') throw new TaskEnded('cancelled');
      const { loopId, twinTitle, twinPackId } = await addLoop(
        {
          packId: batch.packId as number,
          vendorPath: file.path,
          fileSha256,
          soundSha256,
          personId: batch.personId,
          result,
          tags: batch.tags,
          mayBeTwin: batch.duplicates === 'keep',
        },
        transaction,
      );
      if (twinTitle === null) await moveFiles({ id: file.id }, 'finish', { loopId }, transaction);
      else {
        const isLinked = await linkTwin(batch, file.path, { id: loopId, packId: twinPackId as number }, transaction);
        await moveFiles({ id: file.id }, 'know', { loopId, message: twinWords(twinTitle, isLinked) }, transaction);
      }
      await settleUnlessWaiting(file.batchId, transaction);
    };
  const { sound } = result,
    record = ({ sha256 }: StoredFile, transaction: Transaction) => add(sha256, transaction);
  if (sound === null) await inTransaction((transaction) => add(fileSha256, transaction));
  else if (sound instanceof Uint8Array)
    await keepFile(Readable.from([Buffer.from(sound.buffer, sound.byteOffset, sound.byteLength)]), record);
  else await keepStaged(sound, record);
  // A sound of a loop that was a twin after all belongs to nobody.
  await dropUnreferred([fileSha256]);
  await announce({ kind: 'import', batchId: file.batchId });
}

/** Closes a file that is being worked on; its bytes go when nobody else needs them. */
async function endFile(
  file: ImportFile,
  event: 'know' | 'fail',
  changes: { readonly message: string; readonly loopId?: number },
): Promise<void> {
  await inTransaction(async (transaction) => {
    await lockBatch(file.batchId, transaction);
    await moveFiles({ id: file.id }, event, changes, transaction);
    // What is wrong with a file is wrong with its twins of the same batch, which point to it.
    if (event === 'fail' && file.fileSha256 !== null)
      await moveFiles(
        { batchId: file.batchId, fileSha256: file.fileSha256, loopId: null },
        'failWithTwin',
        { message: changes.message },
        transaction,
      );
    await settleUnlessWaiting(file.batchId, transaction);
  });
  await dropUnreferred([file.fileSha256]);
  await announce({ kind: 'import', batchId: file.batchId });
}

/** A file whose job was given up: it failed, or ended the process, at every attempt. */
export async function failImportFile(fileId: string): Promise<void> {
  const file = await ImportFile.findByPk(fileId);
  if (file && waitingFileStates.includes(file.state))
    await endFile(file, 'fail', {
      message: 'The file could not be read, also at a fourth try. It may be damaged in an unusual way.',
    });
}
