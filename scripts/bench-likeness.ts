// npm run bench:likeness -- FOLDER: how far above the rest the siblings of a loop stand, and the original of an altered one, by likeness and by a plain
// distance of cepstra in the same run. Without a folder the demo's packs are made and taken.
import { spawnSync } from 'node:child_process';
import { mkdirSync, mkdtempSync, readdirSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { likenessOfFolder } from '../bench/search/likeness';

const [given] = process.argv.slice(2),
  made = given ? null : mkdtempSync(join(tmpdir(), 'likeness-'));
if (made) {
  spawnSync(process.execPath, ['--import', 'tsx', 'demo/write-zips.ts', join(made, 'zips')], { stdio: 'ignore' });
  mkdirSync(join(made, 'loops'));
  for (const zip of readdirSync(join(made, 'zips')))
    spawnSync('unzip', ['-o', '-q', join(made, 'zips', zip), '-d', join(made, 'loops', zip)]);
}
const { siblings, altered } = await likenessOfFolder(given ?? join(made ?? '', 'loops'));
for (const [name, { queries, byLikeness, byMfcc }] of Object.entries({
  'siblings of a set': siblings,
  'the original of an altered loop': altered,
}))
  console.log(
    `${name}: mean average precision ${byLikeness.toFixed(3)} by likeness, ${byMfcc.toFixed(3)} by cepstra (${queries} questions)`,
  );
if (made) rmSync(made, { recursive: true, force: true });
