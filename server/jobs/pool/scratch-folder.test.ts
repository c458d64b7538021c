import { existsSync, mkdirSync, mkdtempSync, readdirSync, rmSync, utimesSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { basename, join } from 'node:path';
import { sweepScratch, withScratchFolder } from './scratch-folder';

test('a scratch folder is there while it is used, and gone afterwards, whatever happened', async () => {
  let seen = '';
  await withScratchFolder(async (folder) => {
    seen = folder;
    writeFileSync(join(folder, '0.wav'), 'x');
    expect(existsSync(folder)).toBe(true);
  });
  expect(existsSync(seen)).toBe(false);
  await expect(
    withScratchFolder(async (folder) => {
      seen = folder;
      throw new Error('broken off');
    }),
  ).rejects.toThrow('broken off');
  expect(existsSync(seen)).toBe(false);
});
test('what killed processes left is thrown away once it is old, and nothing else', async () => {
  const within = mkdtempSync(join(tmpdir(), 'swept-')),
    names = await withScratchFolder(async (folder) => [basename(folder), basename(folder).replace(/.{6}$/, 'fresh1')]),
    long = new Date(Date.now() - 48 * 3_600_000);
  try {
    for (const name of [...names, 'garnetfinch-data', 'somebody-else']) mkdirSync(join(within, name));
    writeFileSync(join(within, names[0], '0.wav'), 'x');
    for (const name of [names[0], 'garnetfinch-data', 'somebody-else']) utimesSync(join(within, name), long, long);
    await sweepScratch(new Date(Date.now() - 24 * 3_600_000), within);
    expect(readdirSync(within).sort()).toEqual(['garnetfinch-data', names[1], 'somebody-else'].sort());
  } finally {
    rmSync(within, { recursive: true });
  }
});
