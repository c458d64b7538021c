import { mkdirSync, realpathSync } from 'node:fs';
import { readdir, stat } from 'node:fs/promises';
import { join, sep } from 'node:path';
import { isDocument } from '~core/formats/documents';
import { extensionOf, formatsByExtension } from '~core/formats/sniff';
import type { SeenFile } from '~core/imports/folder-changes';
import { isSystemFile } from '~core/names/safe-path';
import { config } from '../../config.server';

/** So many files of a folder are looked at; more is no pack. */
const mostFiles = 50_000,
  mostDepth = 12;

/** Real paths of the folders that the machine's owner allows. */
export function folderRoots(): string[] {
  return config.folderRoots.flatMap((root) => {
    try {
      mkdirSync(root, { recursive: true });
      return [realpathSync(root)];
    } catch {
      return [];
    }
  });
}

/** Whether a path is a folder that may be read: inside an allowed one, wherever links lead. @returns its real path; null when not */
export function allowedFolder(path: string): string | null {
  try {
    const real = realpathSync(path);
    return folderRoots().some((root) => real === root || real.startsWith(root + sep)) ? real : null;
  } catch {
    return null;
  }
}

const isWanted = (path: string): boolean =>
  !isSystemFile(path) && (extensionOf(path) === 'zip' || extensionOf(path) in formatsByExtension || isDocument(path));

/** Sounds, archives and documents in a folder and all below. Links are not followed: they may lead anywhere. */
export async function filesIn(folder: string): Promise<SeenFile[]> {
  const found: SeenFile[] = [];
  const walk = async (inside: string, depth: number): Promise<void> => {
    const entries = await readdir(join(folder, inside), { withFileTypes: true });
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
      const path = inside ? `${inside}/${entry.name}` : entry.name;
      if (found.length >= mostFiles || entry.name.startsWith('.')) continue;
      if (entry.isDirectory() && depth < mostDepth) await walk(path, depth + 1);
      else if (entry.isFile() && isWanted(path)) {
        const { size, mtimeMs } = await stat(join(folder, path));
        found.push({ path, bytes: size, modifiedMs: Math.floor(mtimeMs) });
      }
    }
  };
  await walk('', 0);
  return found;
}

/** Folders that may be chosen: the allowed ones and two levels below. */
export async function foldersToChoose(): Promise<string[]> {
  const found: string[] = [];
  const walk = async (folder: string, depth: number): Promise<void> => {
    found.push(folder);
    if (depth === 0 || found.length > 500) return;
    const entries = await readdir(folder, { withFileTypes: true }).catch(() => []);
    for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1)))
      if (entry.isDirectory() && !entry.name.startsWith('.')) await walk(join(folder, entry.name), depth - 1);
  };
  for (const root of folderRoots()) await walk(root, 2);
  return found;
}
