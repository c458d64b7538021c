import type { Readable } from 'node:stream';
import { Op, type Transaction } from 'sequelize';
import { isDocument } from '~core/formats/documents';
import { isLeftOut, namesOf, type DuplicateWay } from '~core/imports/options';
import { safePath } from '~core/names/safe-path';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';
import { sequelize } from '../../db/connection';
import { recordFileSql } from '../../db/queries/imports';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { inTransaction } from '../../db/transaction';
import type { FileState } from '~core/imports/states';
import { announce } from '../../events/announce.server';
import { addJobInLine } from '../../jobs/queue.server';
import { moveBatch } from './states.server';
import { dropUnreferred, keepFile } from '../../storage/keeping.server';

export interface BatchDraft {
  readonly packName: string;
  readonly vendor: string;
  readonly licence: string;
  readonly description: string;
  /** Names parted by commas: put on every loop. */
  readonly tags?: string;
  /** Folders and endings that are not taken in, parted by commas. */
  readonly leaveOut?: string;
  readonly duplicates?: DuplicateWay;
}

/** Opens a batch that receives files. It leaves no trace unless it is started. */
export async function openBatch(draft: BatchDraft, personId: number): Promise<number> {
  const { tags = '', leaveOut = '', ...rest } = draft;
  return (await ImportBatch.create({ ...rest, tags: namesOf(tags), leaveOut: namesOf(leaveOut), personId, state: 'receiving' })).id;
}

export interface FileRecord {
  readonly batchId: number;
  readonly path: string;
  readonly bytes: number;
  readonly state: FileState;
  readonly fileSha256?: string | null;
  readonly message?: string | null;
}

/** Adds a file's row to a batch, or changes the one that is there. */
export async function recordFile(file: FileRecord, transaction?: Transaction): Promise<void> {
  await sequelize.query(recordFileSql, {
    bind: [file.batchId, file.path, file.bytes, file.fileSha256 ?? null, file.state, file.message ?? null],
    transaction,
  });
}

export type ReceiveResult = { readonly ok: true } | { readonly ok: false; readonly message: string };

/** The batch was started, or thrown away, while a file was still coming in. */
class ClosedBatch extends Error {}

const touchEveryMs = 60_000;

/** Takes one file of a batch from a stream to the store. A stream that breaks off, or ends after the batch was started, leaves nothing. */
export async function receiveFile(batchId: number, personId: number, rawPath: string, body: Readable): Promise<ReceiveResult> {
  const batch = await ImportBatch.findOne({ where: { id: batchId, personId, state: 'receiving' } }),
    path = safePath(rawPath);
  if (!batch || path === null) {
    body.resume();
    return { ok: false, message: batch ? 'The file has no usable name.' : closedWords };
  }
  const ending = extensionOf(path),
    isUnwanted = ending !== 'zip' && isLeftOut(path, batch.leaveOut);
  if (isUnwanted || (ending !== 'zip' && !(ending in formatsByExtension) && !isDocument(path))) {
    let bytes = 0;
    for await (const part of body) bytes += (part as Buffer).length;
    await recordFile({
      batchId,
      path,
      bytes,
      state: 'left-aside',
      message: isUnwanted ? leftOutWords : 'not a sound, MIDI or zip file, nor a document',
    });
    return { ok: true };
  }
  const touch = () => ImportBatch.update({ touchedAt: new Date() }, { where: { id: batchId } }).catch(() => {}),
    touching = setInterval(() => void touch(), touchEveryMs);
  try {
    await keepFile(body, async ({ sha256, bytes }, transaction) => {
      const open = await ImportBatch.findOne({ where: { id: batchId, state: 'receiving' }, lock: transaction.LOCK.SHARE, transaction });
      if (!open) throw new ClosedBatch();
      await recordFile({ batchId, path, bytes, fileSha256: sha256, state: 'queued' }, transaction);
    });
    await touch();
    return { ok: true };
  } catch (error) {
    if (error instanceof ClosedBatch) return { ok: false, message: closedWords };
    if ((error as NodeJS.ErrnoException).code === 'ENOSPC') return { ok: false, message: noRoomWords };
    throw error;
  } finally {
    clearInterval(touching);
  }
}

export const leftOutWords = 'left out, as was asked for';
const closedWords = 'This import takes no more files.';
export const noRoomWords = 'There is no room left on the server’s disk.';

/** Unpacks a batch, or goes on with that: one after the other, though somebody held it and went on at once. */
export const queueUnpacking = (batchId: number, transaction: Transaction): Promise<void> =>
  addJobInLine('unpack-import', { batchId }, `unpack-${batchId}`, transaction);

/** All files are there: the work begins. */
export async function startBatch(
  batchId: number,
  personId: number,
  /** Written with it, or not at all. */
  also: (transaction: Transaction) => Promise<unknown> = async () => {},
): Promise<void> {
  await inTransaction(async (transaction) => {
    if (await moveBatch(batchId, 'start', { where: { personId }, transaction })) await queueUnpacking(batchId, transaction);
    await also(transaction);
  });
  await announce({ kind: 'import', batchId });
}

/** Throws a batch away that was never started, with what it had received. */
export async function dropBatch(batchId: number): Promise<void> {
  const hashes = await inTransaction(async (transaction) => {
    const batch = await ImportBatch.findOne({ where: { id: batchId, state: 'receiving' }, lock: transaction.LOCK.UPDATE, transaction });
    if (!batch) return [];
    const files = await ImportFile.findAll({ where: { batchId }, attributes: ['fileSha256'], transaction });
    await batch.destroy({ transaction });
    return files.map((file) => file.fileSha256);
  });
  await dropUnreferred(hashes);
}

/** A laptop may be closed for so long in the middle of an upload. */
export const forgottenMs = 3 * 24 * 3_600_000;

/** Drops batches that nobody went on with for days: their page was closed in the middle. */
export async function dropForgottenBatches(): Promise<void> {
  const old = await ImportBatch.findAll({ where: { state: 'receiving', touchedAt: { [Op.lt]: new Date(Date.now() - forgottenMs) } } });
  for (const batch of old) await dropBatch(batch.id);
}
