// npm run bench:harmony -- [--pairs N]: loops composed over known chords laid under the chords of a project: what share of the lowest notes belongs to the
// wanted chord by the key alone, by the plan over stated chords, and by the plan over chords as they are heard; what the sound is worth afterwards, and
// how many planted clashes are found. All from one run.
import { parseArgs } from 'node:util';
import { clashesFound } from '../bench/harmony/clashes';
import { demoUnderChords, pitchedDemoLoops } from '../bench/harmony/demo';
import { bassShares, heardSource, pairOf } from '../bench/harmony/pairs';
import { soundAfterPlan } from '../bench/harmony/sound';
import { loadTransforms } from '../core/dsp/real-fft';

const { values } = parseArgs({ options: { pairs: { type: 'string', default: '200' }, sounds: { type: 'string', default: '30' } } }),
  count = Number(values.pairs),
  mean = (list: readonly number[]) => list.reduce((sum, value) => sum + value, 0) / Math.max(1, list.length),
  percent = (share: number) => `${(100 * share).toFixed(1)} %`;
await loadTransforms();
const shares = Array.from({ length: count }, (_, number) => {
  const pair = pairOf(number),
    stated = bassShares(pair, pair.source),
    heard = bassShares(pair, heardSource(pair));
  return { family: pair.family, ...stated, heard: heard.after };
});
for (const family of ['bass', 'keys', null] as const) {
  const those = shares.filter((each) => family === null || each.family === family);
  console.log(
    `${family ?? 'all'}, ${those.length} pairs: of the lowest notes ${percent(mean(those.map(({ own }) => own)))} are of their own chord as composed; of the wanted one by key alone ${percent(mean(those.map(({ before }) => before)))}, by the plan over stated chords ${percent(mean(those.map(({ after }) => after)))}, over heard chords ${percent(mean(those.map(({ heard }) => heard)))}`,
  );
}
const sounds = Array.from({ length: Number(values.sounds) }, (_, number) => soundAfterPlan(pairOf(number * 7 + (number % 7))));
console.log(
  `${sounds.length} rendered: peak over the loop’s own by at most ${Math.max(...sounds.map(({ peakGrowthDb }) => peakGrowthDb)).toFixed(1)} dB, loudest 5 ms at a join over the loudest elsewhere by at most ${Math.max(...sounds.map(({ joinGrowthDb }) => joinGrowthDb)).toFixed(1)} dB, level changed by at most ${Math.max(...sounds.map(({ levelChangeDb }) => Math.abs(levelChangeDb))).toFixed(1)} dB, ${sounds.filter(({ isFinite }) => !isFinite).length} not finite`,
);
const demo = pitchedDemoLoops().flatMap(demoUnderChords),
  most = (list: readonly (typeof demo)[number][], of: (each: (typeof demo)[number]) => number) => {
    const worst = list.reduce((best, each) => (of(each) > of(best) ? each : best));
    return `${of(worst).toFixed(1)} dB (${worst.name})`;
  };
for (const way of ['roots', 'notes'] as const) {
  const those = demo.filter((each) => each.way === way);
  console.log(
    `${those.length} demo loops under other chords, ${way === 'roots' ? 'by their roots' : 'note by note'}: peak over their own by at most ${most(those, ({ peakGrowthDb }) => peakGrowthDb)}, loudest 5 ms at a join by at most ${most(those, ({ joinGrowthDb }) => joinGrowthDb)}, level changed by at most ${most(those, ({ levelChangeDb }) => Math.abs(levelChangeDb))}, ${those.filter((each) => !each.isFinite).length} not finite`,
  );
}
const { planted, found, clean, falseOnes } = clashesFound(count);
console.log(
  `clashes: ${found} of ${planted} planted found (${percent(found / planted)}), ${falseOnes} of ${clean} clean pieces called clashing (${percent(falseOnes / clean)})`,
);
