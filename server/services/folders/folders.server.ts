import { namesOf } from '~core/imports/options';
import { selectRows } from '../../db/connection';
import { foldersSql, watchedIdsSql } from '../../db/queries/folders';
import { WatchedFolder } from '../../db/models/imports';
import { announce } from '../../events/announce.server';
import { addJobInLine } from '../../jobs/queue.server';
import type { BatchDraft } from '../imports/receive.server';
import { recordActivity } from '../people.server';
import { allowedFolder } from './walk.server';

export interface FolderLine {
  readonly id: number;
  readonly path: string;
  readonly packId: number | null;
  readonly packName: string;
  readonly isWatched: boolean;
  readonly message: string | null;
  readonly lookedAt: string | null;
  /** Files that were taken in. */
  readonly files: number;
}

export async function listFolders(): Promise<FolderLine[]> {
  const rows = await selectRows<Omit<FolderLine, 'lookedAt'> & { lookedAt: Date | null }>(foldersSql);
  return rows.map((row) => ({ ...row, lookedAt: row.lookedAt?.toISOString() ?? null }));
}

/** Lets loops come in from a folder, now and, when it is watched, from now on. @returns its number, or what is wrong in words */
export async function addFolder(
  path: string,
  { tags = '', leaveOut = '', ...draft }: BatchDraft,
  isWatched: boolean,
  personId: number,
): Promise<number | string> {
  const real = allowedFolder(path);
  if (real === null) return 'That folder is not among those that this server may read.';
  const [folder, isNew] = await WatchedFolder.findOrCreate({
    where: { path: real },
    defaults: { path: real, ...draft, tags: namesOf(tags), leaveOut: namesOf(leaveOut), isWatched, personId },
  });
  if (!isNew) return 'That folder is there already.';
  await recordActivity(personId, 'allowed', 'folder', folder.id, { name: real });
  await lookInto(folder.id);
  return folder.id;
}

/** Watches a folder, or no more. @returns whether there is such a folder */
export async function setWatched(folderId: number, isWatched: boolean): Promise<boolean> {
  const [count] = await WatchedFolder.update({ isWatched }, { where: { id: folderId } });
  if (count === 0) return false;
  if (isWatched) await lookInto(folderId);
  await announce({ kind: 'import', batchId: null });
  return true;
}

/** Forgets a folder; what it brought in stays. @returns whether there is such a folder */
export async function removeFolder(folderId: number, personId: number): Promise<boolean> {
  const folder = await WatchedFolder.findByPk(folderId);
  if (!folder) return false;
  await folder.destroy();
  await recordActivity(personId, 'forgot', 'folder', folderId, { name: folder.path });
  await announce({ kind: 'import', batchId: null });
  return true;
}

/** Has a folder looked into soon. @returns whether there is such a folder */
export async function askToLook(folderId: number): Promise<boolean> {
  if ((await WatchedFolder.count({ where: { id: folderId } })) === 0) return false;
  await lookInto(folderId);
  return true;
}

const lookInto = (folderId: number): Promise<void> => addJobInLine('look-into-folder', { folderId }, `look-into-folder-${folderId}`);

/** Has all that are watched looked into. */
export async function lookIntoWatched(): Promise<void> {
  for (const { id } of await selectRows<{ id: number }>(watchedIdsSql)) await lookInto(id);
}
