import { createReadStream } from 'node:fs';
import { join } from 'node:path';
import { Op } from 'sequelize';
import { folderChanges, type KnownFile, type SeenFile } from '~core/imports/folder-changes';
import { isLeftOut } from '~core/imports/options';
import { numberedPath } from '~core/names/numbered-path';
import { safePath } from '~core/names/safe-path';
import { selectRows, sequelize } from '../../db/connection';
import { moveLoopsSql, packOfFolderSql, vendorPathsSql } from '../../db/queries/folders';
import { FolderFile, ImportBatch, WatchedFolder } from '../../db/models/imports';
import { inTransaction } from '../../db/transaction';
import { announce, announceLoops } from '../../events/announce.server';
import { dropUnreferred, keepFile } from '../../storage/keeping.server';
import { dropBatch, noRoomWords, recordFile, startBatch } from '../imports/receive.server';
import { chooseAgain } from '../facts.server';
import { allowedFolder, filesIn } from './walk.server';

/**
 * The job: what is new in a folder comes in as one import, what was moved is known by its contents, what is gone stays in the library. A look that
 * was broken off is made again from the start, and its import is thrown away.
 */
export async function lookIntoFolder(folderId: number, nowMs = Date.now()): Promise<void> {
  const folder = await WatchedFolder.findByPk(folderId);
  if (!folder) return;
  for (const { id } of await ImportBatch.findAll({ where: { folderId, state: 'receiving' }, attributes: ['id'] })) await dropBatch(id);
  // What came before gets its pack first.
  const comes = { [Op.or]: [{ state: ['queued', 'unpacking'] }, { state: 'paused', packId: null }] };
  if ((await ImportBatch.count({ where: { folderId, ...comes } })) > 0) return;
  if (allowedFolder(folder.path) === null) return ended(folder, 'This folder is not there, or may not be read any more.');
  try {
    const known = (await FolderFile.findAll({ where: { folderId } })).map(toKnown),
      wanted = (await filesIn(folder.path)).filter(({ path }) => !isLeftOut(path, folder.leaveOut)),
      changes = folderChanges(wanted, known, nowMs);
    await bringIn(folder, changes.toRead, known, changes.gone);
    await ended(folder, changes.growing > 0 ? `${changes.growing} files are still being written.` : null, changes.growing);
  } catch (error) {
    const { code } = error as NodeJS.ErrnoException;
    if (code !== 'ENOSPC' && code !== 'EACCES' && code !== 'ENOENT') throw error;
    await ended(folder, code === 'ENOSPC' ? noRoomWords : 'Something in it may not be read, or went away meanwhile.');
  }
}

const toKnown = ({ path, bytes, modifiedMs, fileSha256, vendorPath }: FolderFile): KnownFile => ({
  path,
  bytes: Number(bytes),
  modifiedMs,
  fileSha256,
  vendorPath,
});

async function ended(folder: WatchedFolder, message: string | null, growing = 0): Promise<void> {
  await folder.update({ message, growing, lookedAt: new Date() });
  await announce({ kind: 'import', batchId: null });
}

async function bringIn(
  folder: WatchedFolder,
  files: readonly SeenFile[],
  known: readonly KnownFile[],
  gone: readonly KnownFile[],
): Promise<void> {
  const left = new Map(gone.map((file) => [file.fileSha256, file])),
    contentsByPath = new Map(known.map(({ path, fileSha256 }) => [path, fileSha256])),
    taken = new Set(await takenPaths(folder));
  let batch: ImportBatch | null = null;
  const came: KnownFile[] = [];
  for (const file of files) {
    const usable = safePath(file.path);
    if (usable === null) continue;
    // Kept under its batch; what turns out to be known is given up again with the rows that nobody wrote.
    batch ??= await openFor(folder);
    const batchId = batch.id,
      before = contentsByPath.get(file.path);
    const { sha256, isNew } = await keepFile(createReadStream(join(folder.path, file.path)), async (stored, transaction) => {
      if (stored.sha256 === before || left.has(stored.sha256)) return { sha256: stored.sha256, isNew: false };
      const vendorPath = numberedPath(usable, taken);
      taken.add(vendorPath);
      await recordFile({ batchId, path: vendorPath, bytes: stored.bytes, fileSha256: stored.sha256, state: 'queued' }, transaction);
      came.push({ ...file, fileSha256: stored.sha256, vendorPath });
      return { sha256: stored.sha256, isNew: true };
    });
    if (isNew) continue;
    await dropUnreferred([sha256]);
    const moved = left.get(sha256);
    if (moved) {
      left.delete(sha256);
      await moveFile(folder, moved, file, usable);
    } else await FolderFile.update({ bytes: file.bytes, modifiedMs: file.modifiedMs }, { where: { folderId: folder.id, path: file.path } });
  }
  for (const { path } of left.values()) await FolderFile.destroy({ where: { folderId: folder.id, path } });
  if (batch === null) return;
  if (came.length === 0) return dropBatch(batch.id);
  await startBatch(batch.id, folder.personId, (transaction) =>
    FolderFile.bulkCreate(
      came.map((file) => ({ folderId: folder.id, ...file })),
      { updateOnDuplicate: ['bytes', 'modifiedMs', 'fileSha256', 'vendorPath'], transaction },
    ),
  );
}

/** An import of a folder goes into the folder's own pack. */
async function openFor(folder: WatchedFolder): Promise<ImportBatch> {
  const { packName, vendor, licence, description, tags, leaveOut, duplicates, personId, id: folderId } = folder,
    packId = await packOf(folder);
  return ImportBatch.create({
    packName,
    vendor,
    licence,
    description,
    tags,
    leaveOut,
    duplicates,
    personId,
    folderId,
    packId,
    state: 'receiving',
  });
}

async function packOf(folder: WatchedFolder): Promise<number | null> {
  const [row] = await selectRows<{ packId: number }>(packOfFolderSql, [folder.id]);
  if (row && row.packId !== folder.packId) await folder.update({ packId: row.packId });
  return row?.packId ?? null;
}

async function takenPaths(folder: WatchedFolder): Promise<string[]> {
  const packId = await packOf(folder);
  return packId === null ? [] : (await selectRows<{ path: string }>(vendorPathsSql, [packId])).map(({ path }) => path);
}

/** Lets a file that was moved, and the loop it brought in, have their new place. */
async function moveFile(folder: WatchedFolder, from: KnownFile, to: SeenFile, vendorPath: string): Promise<void> {
  const packId = await packOf(folder),
    ids = await inTransaction(async (transaction) => {
      const [rows] = await sequelize.query(moveLoopsSql, {
          bind: [packId, from.vendorPath, vendorPath, vendorPath.split('/').at(-1)],
          transaction,
        }),
        moved = (rows as { id: number }[]).map(({ id }) => id);
      await FolderFile.destroy({ where: { folderId: folder.id, path: from.path }, transaction });
      await FolderFile.upsert(
        {
          folderId: folder.id,
          path: to.path,
          bytes: to.bytes,
          modifiedMs: to.modifiedMs,
          fileSha256: from.fileSha256,
          vendorPath: moved.length > 0 ? vendorPath : from.vendorPath,
        },
        { transaction },
      );
      for (const id of moved) await chooseAgain(id, transaction);
      return moved;
    });
  if (ids.length > 0) await announceLoops(ids);
}
