import type { Family } from '../../theory/instruments';
import type { Candidate } from '../facts';
import { ensembleLogits } from '../learned/network';
import { model } from '../learned/models';

/**
 * The families that sound in a file, each with its own chance, the surest first: several can be right at once, as in a drum loop with a
 * bass in it.
 */
export function familiesHeard(timbre: ArrayLike<number>): Candidate<Family>[] {
  const layers = model('layers');
  return [...ensembleLogits(layers, timbre)]
    .map((logit, k) => ({ value: layers.labels[k] as Family, probability: 1 / (1 + Math.exp(-logit)) }))
    .sort((a, b) => b.probability - a.probability);
}
