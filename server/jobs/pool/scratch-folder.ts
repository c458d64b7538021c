import { mkdtemp, readdir, rm, stat } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';

/** Borne by nothing else that may lie beside them. */
const prefix = 'garnetfinch-scratch-';

/** Throws away what tasks of killed processes left behind, and nobody has touched since. */
export async function sweepScratch(before: Date, within = tmpdir()): Promise<void> {
  for (const name of await readdir(within)) {
    if (!name.startsWith(prefix)) continue;
    const folder = join(within, name),
      found = await stat(folder).catch(() => null);
    if (found?.isDirectory() && found.mtime < before) await rm(folder, { recursive: true, force: true });
  }
}

/** A folder of a task's own, gone when it ends. Whoever waits for the task makes it: a thread that is ended puts nothing away. */
export async function withScratchFolder<T>(use: (folder: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), prefix));
  try {
    return await use(folder);
  } finally {
    // What a thread that was just ended still writes is swept later.
    await rm(folder, { recursive: true, force: true, maxRetries: 3 }).catch(() => {});
  }
}
