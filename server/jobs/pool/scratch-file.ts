import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** A folder of a task's own, gone when it ends. */
export async function withScratchFolder<T>(use: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'garnetfinch-'));
  try {
    return await use(folder);
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

/** A file of a task's own, gone when it ends. */
export const withScratchFile = <T>(use: (path: string) => Promise<T>): Promise<T> =>
  withScratchFolder((folder) => use(join(folder, 'sound.wav')));
