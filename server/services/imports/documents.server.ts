import { Op } from 'sequelize';
import { coverRank, documentHeadBytes, documentType, isDocument, mostDocumentBytes } from '~core/formats/documents';
import { plainText } from '~core/names/plain-text';
import { ImportFile, type ImportBatch } from '../../db/models/imports';
import { Pack, PackDocument } from '../../db/models/library';
import { inTransaction } from '../../db/transaction';
import { dropUnreferred } from '../../storage/keeping.server';
import { storage } from '../../storage/storage.server';
import { moveFiles } from './states.server';

/** So many documents stay with a pack; a pack of thousands is none of sounds. */
const mostDocuments = 200,
  mostTextBytes = 262_144;

/** Keeps texts, PDFs and pictures of a batch with its pack, and reads what is said in them. Safe to run twice. */
export async function settleDocuments(batch: ImportBatch): Promise<void> {
  const packId = batch.packId as number,
    waiting = await ImportFile.findAll({
      where: { batchId: batch.id, state: 'queued', fileSha256: { [Op.ne]: null } },
      order: [['path', 'asc']],
    }),
    documents = waiting.filter(({ path }) => isDocument(path));
  let count = await PackDocument.count({ where: { packId } });
  for (const file of documents) count += (await settleDocument(packId, file, count)) ? 1 : 0;
  if (documents.length > 0) await chooseCover(packId);
}

/** @returns whether it was kept */
async function settleDocument(packId: number, file: ImportFile, count: number): Promise<boolean> {
  const fileSha256 = file.fileSha256 as string,
    bytes = Number(file.bytes),
    type = documentType(file.path, await firstBytes(fileSha256, documentHeadBytes, bytes)),
    reason =
      type === null
        ? 'not what its name says'
        : bytes > mostDocumentBytes
          ? 'a document of more than 50 MB'
          : count >= mostDocuments
            ? `more than ${mostDocuments} documents`
            : null;
  if (type === null || reason !== null) {
    await moveFiles({ id: file.id }, 'leave', { message: reason, fileSha256: null });
    await dropUnreferred([fileSha256]);
    return false;
  }
  if (type.kind === 'text') await readPackText(packId, file.path, await firstBytes(fileSha256, mostTextBytes, bytes));
  await inTransaction(async (transaction) => {
    await PackDocument.findOrCreate({
      where: { packId, path: file.path },
      defaults: { packId, path: file.path, ...type, bytes, fileSha256 },
      transaction,
    });
    await moveFiles({ id: file.id }, 'keep', { message: null, fileSha256: null }, transaction);
  });
  return true;
}

async function firstBytes(sha256: string, most: number, bytes: number): Promise<Uint8Array> {
  if (bytes === 0) return new Uint8Array();
  const parts: Buffer[] = [];
  for await (const part of storage.read(sha256, { start: 0, end: Math.min(most, bytes) - 1 })) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

/** A licence text that comes with a pack is kept where the form left the licence empty. */
async function readPackText(packId: number, path: string, bytes: Uint8Array): Promise<void> {
  const text = plainText(bytes),
    pack = await Pack.findByPk(packId, { rejectOnEmpty: true });
  if (/licen[cs]e/i.test(path) && pack.licence === '') await pack.update({ licence: text.trim().split('\n')[0].slice(0, 300) });
  else if (/read ?me|about|cover/i.test(path) && pack.description === '') await pack.update({ description: text.trim().slice(0, 2000) });
}

/** A picture that came with a pack is its cover until a person says otherwise. */
async function chooseCover(packId: number): Promise<void> {
  const pictures = await PackDocument.findAll({ where: { packId, kind: 'picture' } }),
    [best] = pictures.sort((a, b) => coverRank(a.path) - coverRank(b.path));
  if (best) await Pack.update({ coverId: best.id }, { where: { id: packId, coverId: null } });
}
