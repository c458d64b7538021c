import { readFileSync, writeFileSync } from 'node:fs';
import { ensembleLogits, readEnsemble, type Ensemble } from '../core/analysis/learned/network';
import { families, type Family } from '../core/theory/instruments';
import type { Layered } from './extract-layers';
import { packEnsemble, scaled, scaling, trainNetwork, type Group } from './learn';

/*
 * train-layers.ts TRAIN.json,… CHECK.json OUT: which families sound in a file, each by itself, and how that went on sources that nothing was learned from.
 */
const [trainFiles, checkFile, out] = process.argv.slice(2);
const read = (file: string): Layered[] => JSON.parse(readFileSync(file, 'utf8')) as Layered[];
const labels = Object.keys(families).filter((family) => family !== 'mix') as Family[];
const train = trainFiles.split(',').flatMap(read),
  check = read(checkFile),
  scale = scaling(train.map(({ timbre }) => Float32Array.from(timbre)));
const groups: Group[] = train.map((each) => ({
  rows: [scaled(Float32Array.from(each.timbre), scale)],
  targets: Float32Array.from(labels, (label) => (each.families.includes(label) ? 0.98 : 0.02)),
  weight: 1,
}));
const members = 3,
  networks = Array.from({ length: members }, (_, k) =>
    trainNetwork(groups, {
      hidden: 64,
      outputs: labels.length,
      epochs: 40,
      rate: 0.003,
      decay: 0.002,
      noise: 0.4,
      dropout: 0.2,
      several: true,
      seed: 21 + k,
    }),
  );
const sigmoid = (x: number): number => 1 / (1 + Math.exp(-x));
const chances = (ensemble: Ensemble, { timbre }: Layered): Float32Array => ensembleLogits(ensemble, timbre).map(sigmoid);

function measure(ensemble: Ensemble, list: readonly Layered[]) {
  let loss = 0,
    said = 0,
    right = 0,
    there = 0,
    ece = 0,
    n = 0;
  const bins = Array.from({ length: 10 }, () => ({ n: 0, sure: 0, right: 0 }));
  for (const each of list) {
    chances(ensemble, each).forEach((chance, k) => {
      const truth = each.families.includes(labels[k]),
        bin = bins[Math.min(9, Math.floor(chance * 10))];
      loss -= Math.log(Math.max(1e-6, truth ? chance : 1 - chance));
      bin.n++;
      bin.sure += chance;
      bin.right += Number(truth);
      n++;
      if (truth) there++;
      if (chance < 0.5) return;
      said++;
      if (truth) right++;
    });
  }
  for (const bin of bins) ece += Math.abs(bin.sure - bin.right) / n;
  return { loss: loss / n, precision: right / said, recall: right / there, ece };
}
const trials = [0.5, 0.6, 0.7, 0.85, 1, 1.2, 1.4, 1.7, 2, 2.5].map((temperature) => ({
    temperature,
    ...measure(readEnsemble(packEnsemble(networks, scale, labels, temperature, '')), check),
  })),
  best = trials.reduce((a, b) => (b.loss < a.loss ? b : a)),
  percent = (share: number) => `${(100 * share).toFixed(1)} %`;
const figures = `of ${check.length} unseen sounds of one to four families ${percent(best.precision)} of what is said at more than a half is there, ${percent(best.recall)} of what is there is said; ECE ${best.ece.toFixed(3)}`;
console.log(figures);
const ready = readEnsemble(packEnsemble(networks, scale, labels, best.temperature, ''));
for (const count of [1, 2, 3, 4]) {
  const some = measure(
    ready,
    check.filter((each) => each.families.length === count),
  );
  console.log(`  ${count} at once: precision ${percent(some.precision)}, recall ${percent(some.recall)}`);
}
labels.forEach((label, k) => {
  const there = check.filter((each) => each.families.includes(label)),
    found = there.filter((each) => chances(ready, each)[k] >= 0.5).length;
  console.log(`  ${label}: ${found} of ${there.length}`);
});
writeFileSync(
  out,
  `${JSON.stringify(packEnsemble(networks, scale, labels, best.temperature, `layers: trained on ${train.length} sounds; ${figures}`), null, 2)}\n`,
);
