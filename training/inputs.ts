import { homeFeatures } from '../core/analysis/key/home';
import { quarterFeaturesAt } from '../core/analysis/key/key-features';
import { classify, ensembleLogits, softmax } from '../core/analysis/learned/network';
import { model } from '../core/analysis/learned/models';
import { soundOf, type Example } from './features-file';

/** What the key networks are asked with at tonic C holds what homes are told by: see `keyFeatures` for the places. */
function homeOf(each: Example): Float32Array {
  const at = (from: number, count: number) => each.numbers(each.keyAt + from, count),
    logits = Array.from({ length: 12 }, (_, tonic) => [
      ...ensembleLogits(model('key'), each.numbers(each.keyAt + tonic * each.keyCount, each.keyCount)),
    ]).flat();
  return Float32Array.from(
    homeFeatures(
      {
        strength: at(0, 12).map((root) => root * root),
        presence: at(12, 12),
        bass: at(24, 12),
        quarters: [0, 1, 2, 3].map((k) => at(quarterFeaturesAt + k * 24, 24)),
      },
      [...softmax(Float32Array.from(logits))],
    ),
  );
}

/** What a classifier is asked with for a file. */
export function inputOf(what: string, each: Example): Float32Array {
  switch (what) {
    case 'loop':
      return each.numbers(each.kindAt, each.kindCount);
    case 'home':
      return homeOf(each);
    case 'pitched':
      return each.numbers(each.timbreAt, each.timbreCount);
    default:
      return soundOf(each);
  }
}

/** The row of a candidate: its own features, and what the sound is likely to be, for players of pads and of drums mean other tempos. */
const chancesByExample = new Map<Example, Float32Array>();
export const rhythmRow = (example: Example, k: number): Float32Array => {
  let chances = chancesByExample.get(example);
  if (!chances) {
    chances = classify(model('family'), soundOf(example));
    chancesByExample.set(example, chances);
  }
  const row = new Float32Array(example.rhythmCount + chances.length);
  row.set(example.numbers(example.rhythmAt + k * example.rhythmCount, example.rhythmCount));
  row.set(chances, example.rhythmCount);
  return row;
};
