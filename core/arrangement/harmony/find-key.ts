import { modeOf } from '../../analysis/key/mode';
import { keyCorrelations } from '../../analysis/key/profiles';
import { sameKey, type Key } from '../../theory/key';

/** A key that could be the piece's, 0–1. */
export interface KeyFound {
  readonly key: Key;
  readonly probability: number;
}

/** How much a loop's own key, known for sure, is worth beside what is heard. */
const voteWeight = 2.2,
  sharpness = 9;

/**
 * The keys that what sounds together speaks for, the likeliest first: by how its pitch classes go with the profile of each key, and by the keys of the
 * loops themselves. A church mode is told where its telling note is clear.
 * @param classes strengths of twelve pitch classes
 * @param bass the same of what is bass
 * @param votes keys of what is placed, as it sounds, each with how much of it there is, in sum 1
 */
export function findKeys(
  classes: ArrayLike<number>,
  bass: ArrayLike<number>,
  votes: readonly { readonly key: Key; readonly weight: number }[] = [],
): KeyFound[] {
  if (Array.from(classes).every((value) => value <= 0) && votes.length === 0) return [];
  const scores = keyCorrelations(classes, bass).map(({ key, correlation }) => ({
      key,
      score:
        sharpness * correlation +
        voteWeight * votes.reduce((sum, vote) => sum + (sameKey({ tonic: vote.key.tonic, mode: vote.key.mode }, key) ? vote.weight : 0), 0),
    })),
    most = Math.max(...scores.map(({ score }) => score)),
    sum = scores.reduce((all, { score }) => all + Math.exp(score - most), 0),
    chroma = Array.from(classes);
  return scores
    .map(({ key, score }) => {
      const church = modeOf(chroma, key);
      return { key: church ? { ...key, church } : key, probability: Math.exp(score - most) / sum };
    })
    .sort((a, b) => b.probability - a.probability);
}
