import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { buffer } from 'node:stream/consumers';
import { LocalStorage } from './storage.server';

let dir: string, files: LocalStorage;
beforeEach(() => {
  dir = mkdtempSync(join(tmpdir(), 'files-'));
  files = new LocalStorage(dir);
});
afterEach(() => rmSync(dir, { recursive: true }));

const bytes = Buffer.from('a kick and a snare'),
  sha256 = createHash('sha256').update(bytes).digest('hex');
const waiting = () => readdirSync(join(dir, 'incoming'));

test('a file is kept under the hash of its contents and comes back as it was', async () => {
  expect(await files.put(Readable.from([bytes.subarray(0, 5), bytes.subarray(5)]))).toEqual({ sha256, bytes: bytes.length });
  expect(await files.stat(sha256)).toEqual({ bytes: bytes.length });
  expect(await buffer(files.read(sha256))).toEqual(bytes);
  expect(waiting()).toEqual([]);
});

test('the same contents twice are one file', async () => {
  await files.put(Readable.from([bytes]));
  await files.put(Readable.from([bytes]));
  expect(readdirSync(join(dir, sha256.slice(0, 2)))).toEqual([sha256.slice(2)]);
});

test('a part is read with both its ends', async () => {
  await files.put(Readable.from([bytes]));
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
  expect(waiting()).toEqual([]);
  expect(readdirSync(dir)).toEqual(['incoming']);
});

test('what was deleted is gone, and deleting it again is no error', async () => {
  await files.put(Readable.from([bytes]));
  await files.delete(sha256);
  await files.delete(sha256);
  expect(await files.stat(sha256)).toBeNull();
});

test('only hashes name files: no way leads out of the folder', async () => {
  expect(await files.stat('../../etc/passwd')).toBeNull();
  expect(() => files.read('../../etc/passwd')).toThrow(RangeError);
  await expect(files.delete(sha256.toUpperCase())).rejects.toThrow(RangeError);
});
