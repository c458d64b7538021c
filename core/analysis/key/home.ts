import { classify } from '../learned/network';
import { model } from '../learned/models';
import type { SharedKeyFeatures } from './key-features';

/** Notes of the scales that keys are made of, from the tonic: major (and its relative minor); minor with the raised seventh beside the natural one. */
const scales: readonly (readonly number[])[] = [
  [0, 2, 4, 5, 7, 9, 11],
  [0, 2, 3, 5, 7, 8, 10, 11],
];

/** Share of the weights that lies in a scale on a root. */
const shareIn = (weights: ArrayLike<number>, scale: readonly number[], root: number): number => {
  let inside = 0,
    all = 0;
  for (let pc = 0; pc < 12; pc++) {
    all += weights[pc];
    if (scale.includes((pc - root + 12) % 12)) inside += weights[pc];
  }
  return all > 0 ? inside / all : 0;
};

/** The root of the scale that holds most of the weights, and the share it holds. */
function bestRoot(weights: ArrayLike<number>, scale: readonly number[]): { readonly root: number; readonly share: number } {
  let best = { root: 0, share: -1 };
  for (let root = 0; root < 12; root++) {
    const share = shareIn(weights, scale, root);
    if (share > best.share) best = { root, share };
  }
  return best;
}

/** Pitch classes of what 24 triads are heard. */
function notesOf(chords: ArrayLike<number>): Float32Array {
  const notes = new Float32Array(12);
  for (let minor = 0; minor < 2; minor++)
    for (let root = 0; root < 12; root++)
      for (const interval of [0, minor ? 3 : 4, 7]) notes[(root + interval) % 12] += chords[minor * 12 + root] ?? 0;
  return notes;
}

const entropyOf = (shares: ArrayLike<number>): number =>
  -Array.from(shares).reduce((sum, share) => sum + (share > 0 ? share * Math.log(share) : 0), 0);

export const homeFeatureCount = 17;

/**
 * Whether tuned music has one home: how much of it lies in one scale, as a whole and quarter by quarter, and how sure its likeliest key is.
 * @param keys what `judgeKey` says of the 24 keys, in any order
 */
export function homeFeatures(
  { strength, presence, bass, quarters }: Pick<SharedKeyFeatures, 'strength' | 'presence' | 'bass' | 'quarters'>,
  keys: readonly number[],
): number[] {
  const features: number[] = [];
  for (const weights of [strength, presence, bass]) for (const scale of scales) features.push(bestRoot(weights, scale).share);
  const parts = quarters.map(notesOf),
    whole = new Float32Array(12);
  for (const part of parts) for (let pc = 0; pc < 12; pc++) whole[pc] += part[pc];
  for (const scale of scales) {
    const roots = parts.map((part) => bestRoot(part, scale)),
      all = bestRoot(whole, scale),
      inAll = parts.map((part) => shareIn(part, scale, all.root));
    features.push(
      all.share,
      // What each quarter would have by itself, and what the worst has in the scale of all.
      roots.reduce((sum, { share }) => sum + share, 0) / parts.length,
      Math.min(...inAll),
    );
  }
  features.push(
    entropyOf(strength),
    entropyOf(presence),
    Array.from(presence).filter((share) => share > 0.04).length / 12,
    Math.max(...keys),
    entropyOf(keys),
  );
  return features;
}

/**
 * So many tuned loops and sounds have no single key (from memory of common practice); the network learned from as many with as without. With
 * three times as many, three times as many of those in a key are taken for lost.
 */
const usualShare = 0.01;

/** How likely it is that tuned music has no single key: it turns to another, wanders, or has no home at all. */
export function homelessChance(shared: SharedKeyFeatures, keys: readonly number[]): number {
  const learned = classify(model('home'), homeFeatures(shared, keys))[1],
    odds = ((learned + 1e-6) / (1 - learned + 1e-6)) * (usualShare / (1 - usualShare));
  return odds / (1 + odds);
}
