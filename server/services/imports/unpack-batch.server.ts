import { Op } from 'sequelize';
import { isLeftOut } from '~core/imports/options';
import { numberedPath } from '~core/names/numbered-path';
import { sequelize } from '../../db/connection';
import { ImportBatch, ImportFile } from '../../db/models/imports';
import { Pack } from '../../db/models/library';
import { announce } from '../../events/announce.server';
import { dropUnreferred, keepFile } from '../../storage/keeping.server';
import { storage } from '../../storage/storage.server';
import { settleDocuments } from './documents.server';
import { HandOver } from './hand-over.server';
import { leftOutWords, noRoomWords, recordFile } from './receive.server';
import { settleUnlessWaiting } from './settle.server';
import { moveBatch, moveFiles, waitingOf } from './states.server';
import { leaveLate } from './stop.server';
import { readZip, ZipError, type ZipItem } from './zip.server';

/** Tells an archive that came out of another one from those that were sent. */
const nestedMark = 'packed in an archive';
const folderOf = (zip: ImportFile): string => `${zip.path.replace(/\.zip$/i, '')}/`;

const isStopped = async (batchId: number): Promise<boolean> =>
  (await ImportBatch.findByPk(batchId, { attributes: ['state'] }))?.state !== 'unpacking';

/** The job that turns a batch into a pack and single files. Safe to run twice: rows are keyed by (batch, path). */
export async function unpackBatch(batchId: number): Promise<void> {
  if (!(await moveBatch(batchId, 'unpack'))) return;
  const batch = await withPack(batchId),
    handOver = new HandOver(batch);
  try {
    if (!(await unpackZips(batch, handOver))) return await leaveLate(batchId);
    await settleDocuments(batch);
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code !== 'ENOSPC') throw error;
    return failUnpacking(batchId, `${noRoomWords} Nothing is lost: make room, and try again.`);
  }
  const isHeard = await sequelize.transaction(async (transaction) => {
    if (!(await moveBatch(batchId, 'analyse', { transaction }))) return false;
    await handOver.rest(transaction);
    // All may have been heard before the last archive was at its end.
    await settleUnlessWaiting(batchId, transaction);
    return true;
  });
  if (!isHeard) return leaveLate(batchId);
  await announce({ kind: 'import', batchId });
}

/** @returns false when somebody stopped the batch meanwhile */
async function unpackZips(batch: ImportBatch, handOver: HandOver): Promise<boolean> {
  const zipsWhere = (message: string | null) =>
      ImportFile.findAll({ where: { ...waitingOf(batch.id), path: { [Op.iLike]: '%.zip' }, message } }),
    zips = await zipsWhere(null);
  // What was sent beside archives need not wait for them.
  if (zips.length > 0) await handOver.now();
  for (const zip of zips) {
    if (await isStopped(batch.id)) return false;
    await unpackZip(batch, zip, zips.length > 1 ? folderOf(zip) : '', handOver);
  }
  // What was packed in them, one level down.
  for (const zip of await zipsWhere(nestedMark)) {
    if (await isStopped(batch.id)) return false;
    await unpackZip(batch, zip, folderOf(zip), handOver);
  }
  return true;
}

/** A batch that cannot be unpacked, in words; its files stay for another try. */
export async function failUnpacking(
  batchId: number,
  message = 'The import could not be unpacked. Nothing is lost: try again.',
): Promise<void> {
  await moveBatch(batchId, 'fail', { message });
  await announce({ kind: 'import', batchId });
}

/** The batch with its pack, made the first time. */
async function withPack(batchId: number): Promise<ImportBatch> {
  return sequelize.transaction(async (transaction) => {
    const batch = await ImportBatch.findByPk(batchId, { lock: transaction.LOCK.UPDATE, transaction, rejectOnEmpty: true });
    if (batch.packId === null) {
      const { packName: name, vendor, licence, description, personId: addedBy } = batch,
        pack = await Pack.create({ name, vendor, licence, description, addedBy }, { transaction });
      await batch.update({ packId: pack.id }, { transaction });
    }
    return batch;
  });
}

async function unpackZip(batch: ImportBatch, zip: ImportFile, prefix: string, handOver: HandOver): Promise<void> {
  const sha256 = zip.fileSha256 as string,
    isNested = zip.message === nestedMark,
    taken = new Set<string>([zip.path]);
  await moveFiles({ id: zip.id }, 'work');
  let count = 0,
    stopped = false;
  try {
    await storage.withLocalFile(sha256, async (archive) => {
      for await (const item of readZip(archive)) {
        if (count % 10 === 0 && (stopped = await isStopped(batch.id))) return;
        // Two of one name are two files; in the archive's order they are numbered alike at every try.
        const path = numberedPath(prefix + item.path, taken);
        taken.add(path);
        await unpackItem(batch, path, item, isNested);
        await handOver.next();
        if (++count % 25 === 0) await announce({ kind: 'import', batchId: batch.id });
      }
    });
    if (stopped) return;
    await moveFiles({ id: zip.id }, 'finish', { message: `unpacked, ${count} files`, fileSha256: null });
  } catch (error) {
    if (!(error instanceof ZipError)) throw error;
    await moveFiles({ id: zip.id }, 'fail', { message: error.message, fileSha256: null });
  }
  await dropUnreferred([sha256]);
}

async function unpackItem(batch: ImportBatch, path: string, item: ZipItem, isNested: boolean): Promise<void> {
  const batchId = batch.id,
    { bytes } = item;
  if (!('open' in item)) return recordFile({ batchId, path, bytes, state: item.kind, message: item.message });
  if (item.kind !== 'archive' && isLeftOut(path, batch.leaveOut))
    return recordFile({ batchId, path, bytes, state: 'left-aside', message: leftOutWords });
  if (item.kind === 'archive' && isNested)
    return recordFile({
      batchId,
      path,
      bytes,
      state: 'left-aside',
      message: 'an archive two levels down: unpack it and import the folder',
    });
  const known = await ImportFile.findOne({ where: { batchId, path } });
  if (known) return;
  try {
    await keepFile(await item.open(), (stored, transaction) =>
      recordFile(
        {
          batchId,
          path,
          bytes: stored.bytes,
          fileSha256: stored.sha256,
          state: 'queued',
          message: item.kind === 'archive' ? nestedMark : null,
        },
        transaction,
      ),
    );
  } catch (error) {
    // Of what the machine lacks the file is not guilty.
    if (isOurFault(error)) throw error;
    await recordFile(
      item.kind === 'document'
        ? { batchId, path, bytes, state: 'left-aside', message: 'a document that cannot be read' }
        : { batchId, path, bytes, state: 'failed', message: `The file is damaged inside the archive (${reasonOf(error)}).` },
    );
  }
}

const isOurFault = (error: unknown): boolean => {
  const { code, name } = error as { code?: string; name?: string };
  return /^(ENOSPC|EMFILE|ENFILE|ENOMEM|EIO|EACCES|EROFS)$/.test(code ?? '') || (name ?? '').startsWith('Sequelize');
};

function reasonOf(error: unknown): string {
  const text = (error as Error).message;
  return /check ?sum/i.test(text)
    ? 'its checksum is wrong'
    : /compression method/i.test(text)
      ? 'it is packed in a way that cannot be read'
      : /too (many|few) bytes|size/i.test(text)
        ? 'it is longer or shorter than the archive says'
        : 'it cannot be unpacked';
}
