import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream } from 'node:fs';
import { mkdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { config } from '../config.server';

export interface StoredFile {
  readonly sha256: string;
  readonly bytes: number;
}

/** Files by the SHA-256 of their contents. An object store can stand behind the same four functions. */
export interface FileStorage {
  /** Streams to the store with flat memory; a failed stream leaves nothing. */
  put(source: Readable): Promise<StoredFile>;
  /** Bytes `start` to `end`, both included; the whole file without them. */
  read(sha256: string, range?: { readonly start: number; readonly end: number }): Readable;
  /** Size, or null when there is no such file. */
  stat(sha256: string): Promise<{ readonly bytes: number } | null>;
  delete(sha256: string): Promise<void>;
}

const shaPattern = /^[0-9a-f]{64}$/;

export class LocalStorage implements FileStorage {
  constructor(private readonly dir: string) {}

  /** The file's place on this disk; only for what must work on files, such as the CPU pool. */
  path(sha256: string): string {
    if (!shaPattern.test(sha256)) throw new RangeError('not a SHA-256');
    return join(this.dir, sha256.slice(0, 2), sha256.slice(2));
  }

  async put(source: Readable): Promise<StoredFile> {
    const temporary = join(this.dir, 'incoming', randomUUID());
    await mkdir(join(this.dir, 'incoming'), { recursive: true });
    const hash = createHash('sha256');
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
      const sha256 = hash.digest('hex'),
        place = this.path(sha256);
      await mkdir(join(place, '..'), { recursive: true });
      await rename(temporary, place);
      return { sha256, bytes };
    } catch (error) {
      await rm(temporary, { force: true });
      throw error;
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
