import { createHash } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import type { FileStorage } from '../../server/storage/file-storage';

const bytes = Buffer.from('a kick and a snare'),
  sha256 = createHash('sha256').update(bytes).digest('hex'),
  source = () => Readable.from([bytes.subarray(0, 5), bytes.subarray(5)]);

async function listed(files: FileStorage): Promise<{ sha256: string; bytes: number }[]> {
  const found = [];
  for await (const file of files.list()) found.push({ sha256: file.sha256, bytes: file.bytes });
  return found;
}

/** What every store has to do. @param open gives an empty one */
export function keepsFiles(open: () => FileStorage): void {
  let files: FileStorage;
  beforeEach(() => {
    files = open();
  });

  test('a file is kept under the hash of its contents and comes back as it was', async () => {
    expect(await files.put(source())).toEqual({ sha256, bytes: bytes.length });
    expect(await files.stat(sha256)).toEqual({ bytes: bytes.length });
    expect(await buffer(files.read(sha256))).toEqual(bytes);
    expect(await listed(files)).toEqual([{ sha256, bytes: bytes.length }]);
  });
  test('the same contents twice are one file', async () => {
    await files.put(source());
    await files.put(source());
    expect(await listed(files)).toHaveLength(1);
  });
  test('a part is read with both its ends', async () => {
    await files.put(source());
    expect((await buffer(files.read(sha256, { start: 2, end: 5 }))).toString()).toBe('kick');
  });
  test('an upload that breaks off leaves nothing', async () => {
    const broken = Readable.from(
      (async function* () {
        yield bytes;
        await Promise.resolve();
        throw new Error('the line went dead');
      })(),
    );
    await expect(files.put(broken)).rejects.toThrow('the line went dead');
    expect(await listed(files)).toEqual([]);
  });
  test('what is staged is in its place only when it is settled, by whoever knows its name', async () => {
    const { stagedId } = await files.stage(source());
    expect(await files.stat(sha256)).toBeNull();
    await files.resume({ stagedId, sha256, bytes: bytes.length }).settle();
    expect(await buffer(files.read(sha256))).toEqual(bytes);
  });
  test('what is staged and discarded, or swept, cannot be settled', async () => {
    const one = await files.stage(source()),
      other = await files.stage(source());
    await one.discard();
    await files.sweepStaged(new Date(Date.now() + 1000));
    await expect(one.settle()).rejects.toThrow();
    await expect(other.settle()).rejects.toThrow();
    expect(await listed(files)).toEqual([]);
  });
  test('what was deleted is gone, and deleting it again is no error', async () => {
    await files.put(source());
    await files.delete(sha256);
    await files.delete(sha256);
    expect(await files.stat(sha256)).toBeNull();
    expect(await listed(files)).toEqual([]);
  });
  test('a file is lent as one on this disk, with what it holds, and what is not there is not lent', async () => {
    await files.put(source());
    expect(await files.withLocalFile(sha256, (path) => readFile(path))).toEqual(bytes);
    await expect(files.withLocalFile('0'.repeat(64), async () => 'lent')).rejects.toMatchObject({ code: 'ENOENT' });
  });
  test('only hashes name files', async () => {
    expect(await files.stat('../../etc/passwd')).toBeNull();
    expect(() => files.read('../../etc/passwd')).toThrow(RangeError);
    await expect(files.delete(sha256.toUpperCase())).rejects.toThrow(RangeError);
    await expect(files.withLocalFile('../../etc/passwd', async () => 'lent')).rejects.toThrow(RangeError);
  });
}
