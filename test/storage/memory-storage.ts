import { createHash, randomUUID } from 'node:crypto';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { isFileHash, type FileStorage, type StagedFile, type StagedName, type StoredFile } from '../../server/storage/file-storage';

/** A store that keeps nothing on a disk: what the contract is tried on beside the real one. */
export class MemoryStorage implements FileStorage {
  private readonly files = new Map<string, { readonly bytes: Buffer; readonly changedAt: Date }>();
  private readonly waiting = new Map<string, { readonly bytes: Buffer; readonly changedAt: Date }>();

  async put(source: Readable): Promise<StoredFile> {
    const { settle, sha256, bytes } = await this.stage(source);
    await settle();
    return { sha256, bytes };
  }

  async stage(source: Readable): Promise<StagedFile> {
    const bytes = await buffer(source),
      stagedId = randomUUID();
    this.waiting.set(stagedId, { bytes, changedAt: new Date() });
    return this.resume({ stagedId, sha256: createHash('sha256').update(bytes).digest('hex'), bytes: bytes.length });
  }

  resume({ stagedId, sha256, bytes }: StagedName): StagedFile {
    return {
      stagedId,
      sha256,
      bytes,
      settle: async () => {
        const found = this.waiting.get(stagedId);
        if (!found) throw new Error('nothing is staged under that name');
        this.files.set(sha256, found);
        this.waiting.delete(stagedId);
      },
      discard: async () => void this.waiting.delete(stagedId),
    };
  }

  async *list(): AsyncGenerator<StoredFile & { readonly changedAt: Date }> {
    for (const [sha256, { bytes, changedAt }] of this.files) yield { sha256, bytes: bytes.length, changedAt };
  }

  async sweepStaged(before: Date): Promise<void> {
    for (const [id, { changedAt }] of this.waiting) if (changedAt < before) this.waiting.delete(id);
  }

  read(sha256: string, range?: { readonly start: number; readonly end: number }): Readable {
    return Readable.from([this.bytesOf(sha256).subarray(range?.start ?? 0, range ? range.end + 1 : undefined)]);
  }

  async stat(sha256: string): Promise<{ readonly bytes: number } | null> {
    const found = this.files.get(sha256);
    return found ? { bytes: found.bytes.length } : null;
  }

  async delete(sha256: string): Promise<void> {
    if (!isFileHash(sha256)) throw new RangeError('not a SHA-256');
    this.files.delete(sha256);
  }

  async withLocalFile<T>(sha256: string, use: (path: string) => Promise<T>): Promise<T> {
    const folder = await mkdtemp(join(tmpdir(), 'lent-')),
      path = join(folder, sha256);
    try {
      await writeFile(path, this.bytesOf(sha256));
      return await use(path);
    } finally {
      await rm(folder, { recursive: true });
    }
  }

  private bytesOf(sha256: string): Buffer {
    if (!isFileHash(sha256)) throw new RangeError('not a SHA-256');
    const found = this.files.get(sha256);
    if (!found) throw Object.assign(new Error('no such file'), { code: 'ENOENT' });
    return found.bytes;
  }
}
