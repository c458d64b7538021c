import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, mkdirSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { config } from '../config.server';

export interface StoredFile {
  readonly sha256: string;
  readonly bytes: number;
}

/** What has come in whole and is not in its place yet. */
export interface StagedFile extends StoredFile {
  /** Puts it into its place; a file of the same contents that is there is taken over. */
  settle(): Promise<void>;
  discard(): Promise<void>;
}

/** Files by the SHA-256 of their contents. An object store can stand behind the same functions. */
export interface FileStorage {
  /** Streams to the store with flat memory; a failed stream leaves nothing. */
  put(source: Readable): Promise<StoredFile>;
  /** The same in two steps, so that rows can be written with it. */
  stage(source: Readable): Promise<StagedFile>;
  /** All there are, in no order. */
  list(): AsyncGenerator<StoredFile & { readonly changedAt: Date }>;
  /** Throws away what was left behind half received, unless it was touched since. */
  sweepStaged(before: Date): Promise<void>;
  /** Bytes `start` to `end`, both included; the whole file without them. */
  read(sha256: string, range?: { readonly start: number; readonly end: number }): Readable;
  /** Size, or null when there is no such file. */
  stat(sha256: string): Promise<{ readonly bytes: number } | null>;
  delete(sha256: string): Promise<void>;
}

const shaPattern = /^[0-9a-f]{64}$/;

export class LocalStorage implements FileStorage {
  private readonly incoming: string;

  constructor(private readonly dir: string) {
    this.incoming = join(dir, 'incoming');
    // At once: a stream that comes in may fail before anything that waits has looked at it.
    mkdirSync(this.incoming, { recursive: true });
  }

  /** The file's place on this disk; only for what must work on files, such as the CPU pool. */
  path(sha256: string): string {
    if (!shaPattern.test(sha256)) throw new RangeError('not a SHA-256');
    return join(this.dir, sha256.slice(0, 2), sha256.slice(2));
  }

  async put(source: Readable): Promise<StoredFile> {
    const { settle, sha256, bytes } = await this.stage(source);
    await settle();
    return { sha256, bytes };
  }

  async stage(source: Readable): Promise<StagedFile> {
    const temporary = join(this.incoming, randomUUID()),
      hash = createHash('sha256');
    let bytes = 0;
    const meter = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        hash.update(chunk);
        bytes += chunk.length;
        done(null, chunk);
      },
    });
    try {
      await pipeline(source, meter, createWriteStream(temporary));
    } catch (error) {
      await rm(temporary, { force: true });
      throw error;
    }
    const sha256 = hash.digest('hex'),
      place = this.path(sha256);
    return {
      sha256,
      bytes,
      settle: async () => {
        await mkdir(join(place, '..'), { recursive: true });
        await rename(temporary, place);
      },
      discard: () => rm(temporary, { force: true }),
    };
  }

  async *list(): AsyncGenerator<StoredFile & { readonly changedAt: Date }> {
    for (const folder of await readdir(this.dir)) {
      if (!/^[0-9a-f]{2}$/.test(folder)) continue;
      for (const name of await readdir(join(this.dir, folder))) {
        if (!shaPattern.test(folder + name)) continue;
        const found = await stat(join(this.dir, folder, name)).catch(() => null);
        if (found) yield { sha256: folder + name, bytes: found.size, changedAt: found.mtime };
      }
    }
  }

  async sweepStaged(before: Date): Promise<void> {
    for (const name of await readdir(this.incoming)) {
      const file = join(this.incoming, name),
        found = await stat(file).catch(() => null);
      if (found && found.mtime < before) await rm(file, { force: true });
    }
  }

  read(sha256: string, range?: { readonly start: number; readonly end: number }): Readable {
    return createReadStream(this.path(sha256), range);
  }

  async stat(sha256: string): Promise<{ readonly bytes: number } | null> {
    if (!shaPattern.test(sha256)) return null;
    try {
      return { bytes: (await stat(this.path(sha256))).size };
    } catch {
      return null;
    }
  }

  async delete(sha256: string): Promise<void> {
    await rm(this.path(sha256), { force: true });
  }
}

export const storage = new LocalStorage(join(config.dataDir, 'files'));
