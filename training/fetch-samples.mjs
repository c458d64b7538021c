// node training/fetch-samples.mjs FOLDER: fetches packages of recorded notes (MIT) from the npm registry, for training only.
import { execFileSync } from 'node:child_process';
import { existsSync, mkdirSync, readdirSync, rmSync } from 'node:fs';
import { join } from 'node:path';

const names =
  'bass-electric bassoon cello clarinet contrabass flute french-horn guitar-acoustic guitar-electric guitar-nylon harmonium harp organ piano saxophone trombone trumpet tuba violin xylophone'.split(
    ' ',
  );
const folder = process.argv[2];
for (const name of names) {
  const dir = join(folder, name);
  if (existsSync(dir)) continue;
  try {
    mkdirSync(dir, { recursive: true });
    execFileSync('npm', ['pack', '--silent', `tonejs-instrument-${name}-mp3`], { cwd: dir });
    const archive = readdirSync(dir).find((each) => each.endsWith('.tgz'));
    execFileSync('tar', ['xzf', archive], { cwd: dir });
    rmSync(join(dir, archive));
    console.log(name);
  } catch {
    rmSync(dir, { recursive: true, force: true });
    console.log(`${name}: not to be had`);
  }
}
