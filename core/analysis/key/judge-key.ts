import { allKeys, type Key } from '../../theory/key';
import { ensembleLogits, softmax } from '../learned/network';
import { model } from '../learned/models';
import { keyFeatures, type SharedKeyFeatures } from './key-features';

/**
 * Once in so many loops the networks are sure of a wrong key: a chord that is leant on for long, a tonic that is never played. What they
 * thought possible at all is then likelier than they say. Measured on the unseen sound font and on one outside set: with it the right key gets
 * more on the outside set (loss .55 → .54 a loop) and as much on the font, and a name that contradicts is believed when it should be.
 */
const misled = 0.06,
  misledTemperature = 4;

/** How likely each of the 24 keys is, provided that there is one; in the order of `allKeys`, and the likeliest first. */
export function judgeKey(shared: SharedKeyFeatures): { value: Key; probability: number }[] {
  const ensemble = model('key'),
    logits = Array.from({ length: 12 }, (_, tonic) => ensembleLogits(ensemble, keyFeatures(shared, tonic))),
    all = allKeys.map(({ tonic, mode }) => logits[tonic][mode === 'major' ? 0 : 1]),
    sure = softmax(all),
    open = softmax(all.map((logit) => logit / misledTemperature));
  return allKeys
    .map((value, k) => ({ value, probability: (1 - misled) * sure[k] + misled * open[k] }))
    .sort((a, b) => b.probability - a.probability);
}
