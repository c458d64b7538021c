import { mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { keepsFiles } from '../../test/storage/contract';
import { MemoryStorage } from '../../test/storage/memory-storage';
import { LocalStorage } from './local-storage';

let dir: string;
beforeEach(() => (dir = mkdtempSync(join(tmpdir(), 'files-'))));
afterEach(() => rmSync(dir, { recursive: true }));

describe('on a local disk', () => keepsFiles(() => new LocalStorage(dir)));
describe('in memory', () => keepsFiles(() => new MemoryStorage()));

test('the same contents twice are one file on the disk, and nothing waits', async () => {
  const files = new LocalStorage(dir),
    { sha256 } = await files.put(Readable.from([Buffer.from('a kick')]));
  await files.put(Readable.from([Buffer.from('a kick')]));
  expect(readdirSync(join(dir, sha256.slice(0, 2)))).toEqual([sha256.slice(2)]);
  expect(readdirSync(join(dir, 'incoming'))).toEqual([]);
});
