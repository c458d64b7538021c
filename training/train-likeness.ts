import { writeFileSync } from 'node:fs';
import { EigenvalueDecomposition, Matrix } from 'ml-matrix';
import { loadExamples, type Example } from './features-file';
import { packed, scaled, scaling } from './learn';

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
const classes = [...byInstrument.values()].filter((rows) => rows.length >= 20),
  means = classes.map((rows) => new Matrix(rows).mean('column'));

/** Mean of the outer products of the rows. */
const scatter = (rows: Matrix): Matrix => rows.transpose().mmul(rows).div(rows.rows);
/** Directions of a symmetric matrix, the widest first, one a row, and how wide. */
function directions(symmetric: Matrix): { rows: Matrix; widths: number[] } {
  const { eigenvectorMatrix, realEigenvalues } = new EigenvalueDecomposition(symmetric, { assumeSymmetric: true }),
    order = realEigenvalues.map((_, k) => k).sort((x, y) => realEigenvalues[y] - realEigenvalues[x]);
  return {
    rows: new Matrix(order.map((k) => eigenvectorMatrix.getColumn(k))),
    widths: order.map((k) => realEigenvalues[k]),
  };
}

const spread = scatter(new Matrix(classes.flatMap((rows, c) => rows.map((row) => row.map((value, k) => value - means[c][k]))))),
  within = Matrix.add(Matrix.mul(spread, 1 - shrinkage), Matrix.eye(size, size, (shrinkage * spread.trace()) / size));
// Seen through the inverse root of the scatter within, every instrument is a ball of radius 1; the widest spread of their centres is what parts them.
const { rows: axes, widths } = directions(within),
  whiten = axes.mulColumnVector(widths.map((width) => 1 / Math.sqrt(width))),
  centres = new Matrix(means).center('column').mmul(whiten.transpose()),
  parted = directions(scatter(centres))
    .rows.subMatrix(0, discriminants - 1, 0, size - 1)
    .mmul(whiten);
const rows = [...parted.to2DArray(), ...Matrix.mul(whiten.subMatrix(0, widest - 1, 0, size - 1), widestWeight).to2DArray()];
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
