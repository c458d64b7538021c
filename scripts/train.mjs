// node scripts/train.mjs material|features|models [WHAT …]: makes the material, hears it, trains the learned parts. See docs/training.md.
import { existsSync } from 'node:fs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { at, dataDir, say, Stop } from './lib/paths.mjs';
import { run, tryRun } from './lib/run.mjs';

const folder = (name) => `${dataDir}/training/${name}`;
const typescript = (file, ...args) => run(process.execPath, ['--import', 'tsx', at(file), ...args]);

/**
 * The sets, each from its own seed: a and b are of all kinds, c, d and k loops with notes, e and f drums, percussion, effects and single sounds:
 * what sounds are learned from. g to j are what rhythm is learned from: loops with notes, all kinds, drums and percussion; keys from g, and from r and s,
 * whose harmony no list holds; y has lost its keys; o and p are loops in five and seven, q in nine and eleven too, some of a single bar. u to x and z, but y, are only measured with: their sound font is in no other set, and z's kinds of harmony neither.
 */
const all = 'fluid,musescore,gmbank,blackpearl,redzeppelin,opl3',
  tuned = 'fluid,musescore,gmbank,opl3';
const sets = [
  ['a', 900, 808, ['--fonts', all, '--hits', '0.5']],
  ['b', 900, 809, ['--fonts', all, '--hits', '0.5']],
  ['c', 2400, 606, ['--fonts', tuned, '--only', 'tonal']],
  ['d', 2400, 707, ['--fonts', tuned, '--only', 'tonal']],
  ['e', 1500, 1001, ['--fonts', all, '--only', 'untuned', '--hits', '1.3']],
  ['f', 3000, 1002, ['--fonts', all, '--only', 'untuned', '--hits', '60', '--broad', 'yes']],
  ['k', 2400, 1606, ['--fonts', tuned, '--only', 'tonal']],
  ['g', 2040, 606, ['--fonts', tuned, '--only', 'tonal']],
  ['h', 2040, 707, ['--fonts', tuned, '--only', 'tonal']],
  ['i', 1000, 808, ['--fonts', all, '--hits', '0.5']],
  ['j', 900, 1001, ['--fonts', all, '--only', 'untuned', '--hits', '0.5']],
  ['r', 1600, 5606, ['--fonts', tuned, '--harmony', 'wide']],
  ['s', 1600, 5607, ['--fonts', tuned, '--harmony', 'wide']],
  ['y', 1000, 2606, ['--fonts', tuned, '--only', 'tonal', '--keyless', 'yes']],
  ['o', 1400, 4808, ['--fonts', all, '--hits', '0.02', '--odd', 'yes']],
  ['p', 1600, 4809, ['--fonts', all, '--hits', '0.02', '--odd', 'yes']],
  ['q', 900, 4810, ['--fonts', all, '--hits', '0.02', '--odd', 'rarer']],
  ['u', 300, 911, ['--fonts', 'timgm', '--sources', 'font']],
  ['v', 200, 2911, ['--fonts', 'timgm', '--sources', 'font', '--only', 'tonal', '--keyless', 'yes']],
  ['w', 300, 4911, ['--fonts', 'timgm', '--sources', 'font', '--hits', '0.02', '--odd', 'yes']],
  ['x', 200, 4912, ['--fonts', 'timgm', '--sources', 'font', '--hits', '0.02', '--odd', 'rarer']],
  ['z', 400, 5911, ['--fonts', 'timgm', '--sources', 'font', '--harmony', 'kept-out']],
];
/** Examples for keys that are written and never rendered: so many, from this seed. */
const written = ['n', 20_000, 6001];
const sounds = ['a', 'b', 'c', 'd', 'e', 'f', 'k'],
  music = ['g', 'h', 'i', 'j'],
  odd = ['o', 'p', 'q'],
  checks = ['u', 'recorded'];
const keys = ['g', 'r', 's'];
const setsFor = (what) => ({ key: [written[0], ...keys], home: [...keys, 'y'], rhythm: music, meter: [...music, ...odd] })[what] ?? sounds;
const checksFor = (what) => ({ key: ['u', 'z'], home: ['u', 'v'], rhythm: ['u'], meter: ['u', 'w', 'x'] })[what] ?? checks;
/** Sounds laid over each other: out of these sets, so many, from this seed. */
const layered = [
  ['layers', ['a', 'b', 'c'], 2600, 51],
  ['layers-unseen', ['u'], 400, 52],
];
const models = ['family', 'instrument', 'pitched', 'loop', 'key', 'home', 'rhythm', 'meter', 'likeness', 'layers'];
const weights = (what) => at(`core/analysis/learned/weights/${what}.json`);

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
    for (const name of [...sounds, ...music, 'r', 's', 'y', ...odd, ...checks, 'v', 'w', 'x', 'z']) {
      say(`hearing ${name}`);
      typescript('training/extract.ts', folder(name));
    }
    say('writing harmony for keys');
    typescript('training/write-keys.ts', folder(written[0]), String(written[1]), String(written[2]));
    for (const [of, from, count, seed] of layered) {
      say(`hearing several at once: ${of}`);
      typescript('training/extract-layers.ts', from.map(folder).join(','), String(count), String(seed), `${folder(of)}.json`);
    }
  },
  models(wanted) {
    for (const what of wanted.length ? wanted : models) {
      const from = setsFor(what).map(folder).join(',');
      if (what === 'likeness') typescript('training/train-likeness.ts', from, folder('u'), weights(what));
      else if (what === 'layers')
        typescript('training/train-layers.ts', `${folder('layers')}.json`, `${folder('layers-unseen')}.json`, weights(what));
      else typescript('training/train.ts', what, from, checksFor(what).map(folder).join(','), '--out', weights(what));
    }
  },
};

await main(async () => {
  checkNode();
  ensurePackages();
  const [step, ...rest] = process.argv.slice(2);
  if (!(step in steps)) throw new Stop(`npm run train:material, train:features or train:models [-- ${models.join(' | ')}]`);
  steps[step](rest);
});
