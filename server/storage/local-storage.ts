import { createHash, randomUUID } from 'node:crypto';
import { createReadStream, createWriteStream, mkdirSync } from 'node:fs';
import { mkdir, readdir, rename, rm, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { isFileHash, type FileStorage, type StagedFile, type StagedName, type StoredFile } from './file-storage';

export class LocalStorage implements FileStorage {
  private readonly incoming: string;

  constructor(private readonly dir: string) {
    this.incoming = join(dir, 'incoming');
    // At once: a stream that comes in may fail before anything that waits has looked at it.
    mkdirSync(this.incoming, { recursive: true });
  }

  private path(sha256: string): string {
    if (!isFileHash(sha256)) throw new RangeError('not a SHA-256');
    return join(this.dir, sha256.slice(0, 2), sha256.slice(2));
  }

  async put(source: Readable): Promise<StoredFile> {
    const { settle, sha256, bytes } = await this.stage(source);
    await settle();
    return { sha256, bytes };
  }

  async stage(source: Readable): Promise<StagedFile> {
    const stagedId = randomUUID(),
      temporary = join(this.incoming, stagedId),
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
    return this.resume({ stagedId, sha256: hash.digest('hex'), bytes });
  }

  resume({ stagedId, sha256, bytes }: StagedName): StagedFile {
    if (!/^[0-9a-f-]{36}$/.test(stagedId)) throw new RangeError('not a staged file');
    const temporary = join(this.incoming, stagedId),
      place = this.path(sha256);
    return {
      stagedId,
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
        if (!isFileHash(folder + name)) continue;
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
    if (!isFileHash(sha256)) return null;
    try {
      return { bytes: (await stat(this.path(sha256))).size };
    } catch {
      return null;
    }
  }

  async delete(sha256: string): Promise<void> {
    await rm(this.path(sha256), { force: true });
  }

  async withLocalFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T> {
    const path = this.path(sha256);
    await stat(path);
    return use(path);
  }
}
