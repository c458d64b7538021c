import { allKeys, type Key } from '../../theory/key';

/** Krumhansl & Kessler 1982, probe-tone ratings, tonic first. */
const profiles: Readonly<Record<Key['mode'], readonly number[]>> = {
  major: [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88],
  minor: [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17],
};

function correlation(a: readonly number[], b: readonly number[]): number {
  const meanA = a.reduce((x, y) => x + y, 0) / a.length,
    meanB = b.reduce((x, y) => x + y, 0) / b.length;
  let ab = 0,
    aa = 0,
    bb = 0;
  for (let i = 0; i < a.length; i++) {
    const x = a[i] - meanA,
      y = b[i] - meanB;
    ab += x * y;
    aa += x * x;
    bb += y * y;
  }
  return aa === 0 || bb === 0 ? 0 : ab / Math.sqrt(aa * bb);
}

/** Correlation of pitch-class weights (12 values, C first) with each key's profile; the bass counts a third. */
export function keyCorrelations(whole: ArrayLike<number>, bass: ArrayLike<number>): { key: Key; correlation: number }[] {
  const mixed = Array.from({ length: 12 }, (_, i) => whole[i] * 0.7 + bass[i] * 0.3);
  return allKeys.map((key) => ({
    key,
    correlation: correlation(
      Array.from({ length: 12 }, (_, i) => mixed[(i + key.tonic) % 12]),
      profiles[key.mode],
    ),
  }));
}
