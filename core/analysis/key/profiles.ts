import { allKeys, type Key } from '../../theory/key';

type Profile = Readonly<Record<Key['mode'], readonly number[]>>;

/** Krumhansl & Kessler 1982, probe-tone ratings, tonic first. */
const ratings: Profile = {
  major: [6.35, 2.23, 3.48, 2.33, 4.38, 4.09, 2.52, 5.19, 2.39, 3.66, 2.29, 2.88],
  minor: [6.33, 2.68, 3.52, 5.38, 2.6, 3.53, 2.54, 4.75, 3.98, 2.69, 3.34, 3.17],
};

/** Temperley 2001, how often the steps sound in the pieces of a textbook of harmony; from memory. */
const textbook: Profile = {
  major: [0.748, 0.06, 0.488, 0.082, 0.67, 0.46, 0.096, 0.715, 0.104, 0.366, 0.057, 0.4],
  minor: [0.712, 0.084, 0.474, 0.618, 0.049, 0.46, 0.105, 0.747, 0.404, 0.067, 0.133, 0.33],
};

/** Albrecht & Shanahan 2013, how often the steps sound in the first and last bars of 982 pieces; from memory. */
const edges: Profile = {
  major: [0.238, 0.006, 0.111, 0.006, 0.137, 0.094, 0.016, 0.214, 0.009, 0.08, 0.008, 0.081],
  minor: [0.22, 0.006, 0.104, 0.123, 0.019, 0.103, 0.012, 0.214, 0.062, 0.022, 0.061, 0.052],
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
      ratings[key.mode],
    ),
  }));
}

/** So many ways of asking plain profiles there are: each set of ratings, of what sounds and of what sounds clearly. */
export const profileFitCount = 6;

/**
 * What plain profiles say of the 24 keys, in the order of `allKeys`: correlations (−1 to 1), a list for each set of ratings and each of the two
 * weightings.
 * @param strength, presence weights of 12 pitch classes, C first
 * @param bass the same of the lowest notes, which count a third
 */
export const profileFits = (strength: ArrayLike<number>, presence: ArrayLike<number>, bass: ArrayLike<number>): Float32Array[] =>
  [ratings, textbook, edges].flatMap((profile) =>
    [strength, presence].map((weights) => {
      const mixed = Array.from({ length: 12 }, (_, k) => weights[k] * 0.7 + bass[k] * 0.3);
      return Float32Array.from(allKeys, ({ tonic, mode }) =>
        correlation(
          mixed.map((_, k) => mixed[(k + tonic) % 12]),
          profile[mode],
        ),
      );
    }),
  );
