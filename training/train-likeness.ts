import { writeFileSync } from 'node:fs';
import { loadExamples, type Example } from './features-file';
import { packed, scaled, scaling } from './learn';
import { eigen, scatter } from './symmetric';

/*
 * train-likeness.ts TRAIN-FOLDER,… CHECK-FOLDER OUT: the directions of the likeness vector, and how often the nearest of another file is of the same
 * instrument, on sources that nothing was made from.
 */
const [trainFolders, checkFolder, out] = process.argv.slice(2);
const discriminants = 24,
  widest = 8,
  /** Directions within an instrument count less than those between. */
  widestWeight = 0.5,
  /** Share of an even spread in the scatter within, without which directions of little spread would count beyond reason. */
  shrinkage = 0.1;

const timbreOf = (example: Example): Float32Array => example.numbers(example.timbreAt, example.timbreCount);
const train = trainFolders
    .split(',')
    .flatMap(loadExamples)
    .filter(({ truth }) => truth.family !== 'mix' && truth.family !== 'fx'),
  scale = scaling(train.map(timbreOf)),
  size = scale.mean.length;
const byInstrument = new Map<string, Float32Array[]>();
for (const example of train) {
  const row = scaled(timbreOf(example), scale),
    list = byInstrument.get(example.truth.instrument);
  if (list) list.push(row);
  else byInstrument.set(example.truth.instrument, [row]);
}
const classes = [...byInstrument.values()].filter((rows) => rows.length >= 20);
const means = classes.map((rows) =>
    Float64Array.from({ length: size }, (_, k) => rows.reduce((sum, row) => sum + row[k], 0) / rows.length),
  ),
  within = scatter(
    classes.flatMap((rows, c) => rows.map((row) => row.map((value, k) => value - means[c][k]))),
    size,
  );
let trace = 0;
for (let k = 0; k < size; k++) trace += within[k * size + k] / size;
for (let i = 0; i < within.length; i++) within[i] *= 1 - shrinkage;
for (let k = 0; k < size; k++) within[k * size + k] += shrinkage * trace;
// Seen through the inverse root of the scatter within, every instrument is a ball of radius 1; the widest spread of their centres is what parts them.
const { values, vectors } = eigen(within, size),
  whiten = vectors.map((vector, k) => vector.map((value) => value / Math.sqrt(values[k]))),
  through = (row: ArrayLike<number>): Float64Array =>
    Float64Array.from(whiten, (direction) => direction.reduce((sum, value, k) => sum + value * row[k], 0));
const centre = Float64Array.from({ length: size }, (_, k) => means.reduce((sum, mean) => sum + mean[k], 0) / means.length),
  between = scatter(
    means.map((mean) => through(mean.map((value, k) => value - centre[k]))),
    size,
  ),
  parted = eigen(between, size).vectors.slice(0, discriminants);
const rows = [
  ...parted.map((direction) =>
    Float64Array.from({ length: size }, (_, k) => direction.reduce((sum, value, d) => sum + value * whiten[d][k], 0)),
  ),
  ...whiten.slice(0, widest).map((direction) => direction.map((value) => value * widestWeight)),
];
const project = (row: Float32Array): Float64Array =>
  Float64Array.from(rows, (direction) => direction.reduce((sum, value, k) => sum + value * row[k], 0));

function nearest(points: readonly ArrayLike<number>[], instruments: readonly string[]): number {
  let right = 0;
  points.forEach((point, k) => {
    let best = -1,
      least = Infinity;
    points.forEach((other, j) => {
      if (j === k) return;
      let sum = 0;
      for (let d = 0; d < point.length; d++) sum += (point[d] - other[d]) ** 2;
      if (sum < least) [least, best] = [sum, j];
    });
    right += Number(instruments[best] === instruments[k]);
  });
  return right / points.length;
}
const check = loadExamples(checkFolder),
  instruments = check.map(({ truth }) => truth.instrument),
  scaledCheck = check.map((example) => scaled(timbreOf(example), scale));
const percent = (share: number) => `${(100 * share).toFixed(1)} %`;
const figures = `the nearest other file of ${check.length} unseen ones is of the same instrument in ${percent(nearest(scaledCheck.map(project), instruments))}; by all ${size} numbers as they are in ${percent(nearest(scaledCheck, instruments))}`;
console.log(figures);
writeFileSync(
  out,
  `${JSON.stringify(
    {
      made: `likeness: from ${train.length} files; ${figures}`,
      inputs: size,
      outputs: rows.length,
      scaling: packed([scale.mean, scale.deviation]),
      rows: packed(rows),
    },
    null,
    2,
  )}\n`,
);
