import { allKeys, type Key } from '../../theory/key';
import { ensembleLogits, softmax } from '../learned/network';
import { model } from '../learned/models';
import { keyFeatures, type KeyGround } from './key-features';

/** How likely each of the 24 keys is, provided that there is one; in the order of `allKeys`, and the likeliest first. */
export function judgeKey(ground: KeyGround): { value: Key; probability: number }[] {
  const ensemble = model('key'),
    logits = Array.from({ length: 12 }, (_, tonic) => ensembleLogits(ensemble, keyFeatures(ground, tonic))),
    scores = softmax(allKeys.map(({ tonic, mode }) => logits[tonic][mode === 'major' ? 0 : 1]));
  return allKeys.map((value, k) => ({ value, probability: scores[k] })).sort((a, b) => b.probability - a.probability);
}
