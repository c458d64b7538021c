// node scripts/train.mjs material|features|models [WHAT …]: makes the material, hears it, trains the learned parts. See docs/training.md.
import { existsSync } from 'node:fs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { at, dataDir, say, Stop } from './lib/paths.mjs';
import { run, tryRun } from './lib/run.mjs';

const folder = (name) => `${dataDir}/training/${name}`;
const typescript = (file, ...args) => run(process.execPath, ['--import', 'tsx', at(file), ...args]);

/** The sets, each from its own seed. The last one is only measured with: its sound font is in no other set. */
const many = 'fluid,musescore,gmbank,blackpearl,redzeppelin';
const sets = [
  ['a', 2200, 101, ['--fonts', many]],
  ['b', 2200, 202, ['--fonts', many]],
  ['c', 840, 303, ['--fonts', `${many},opl3`, '--hits', '1.6']],
  ['d', 1200, 404, ['--fonts', `${many},opl3`, '--hits', '1.3']],
  ['e', 1500, 505, ['--fonts', `${many},opl3`, '--hits', '60', '--broad', 'yes']],
  ['u', 300, 911, ['--fonts', 'timgm', '--sources', 'font']],
];
const learned = ['a', 'b', 'c', 'd', 'e'],
  checks = ['u', 'recorded'];
/** Key and rhythm learn from loops; set e is single sounds. */
const rhythmic = (what) => what === 'key' || what === 'rhythm';
const models = ['family', 'instrument', 'pitched', 'loop', 'key', 'rhythm'];

const steps = {
  material() {
    if (tryRun('which', ['fluidsynth']).status !== 0)
      throw new Stop(
        'The material needs Debian’s fluidsynth, fluid-soundfont-gm, musescore-general-soundfont, csound-soundfont, avldrums.lv2-soundfont, opl3-soundfont, timgm6mb-soundfont, hydrogen-drumkits and sonic-pi-samples: install them with apt-get.',
      );
    run(process.execPath, [at('training/fetch-samples.mjs'), folder('notes')]);
    for (const [name, count, seed, options] of sets)
      if (!existsSync(`${folder(name)}/truth.json`))
        typescript(
          'training/make-material.ts',
          '--out',
          folder(name),
          '--count',
          String(count),
          '--seed',
          String(seed),
          '--recorded',
          folder('notes'),
          ...options,
        );
    typescript('training/make-recorded-check.ts', folder('recorded'));
  },
  features() {
    for (const name of [...learned, ...checks]) {
      say(`hearing ${name}`);
      typescript('training/extract.ts', folder(name));
    }
  },
  models(wanted) {
    for (const what of wanted.length ? wanted : models)
      typescript(
        'training/train.ts',
        what,
        (rhythmic(what) ? learned.filter((name) => name !== 'e') : learned).map(folder).join(','),
        (rhythmic(what) ? checks.slice(0, 1) : checks).map(folder).join(','),
        '--out',
        at(`core/analysis/learned/weights/${what}.json`),
      );
  },
};

await main(async () => {
  checkNode();
  ensurePackages();
  const [step, ...rest] = process.argv.slice(2);
  if (!(step in steps)) throw new Stop(`npm run train:material, train:features or train:models [-- ${models.join(' | ')}]`);
  steps[step](rest);
});
