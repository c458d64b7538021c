import { instrumentById, type Family } from '../../theory/instruments';
import { classify } from '../learned/network';
import { model } from '../learned/models';
import type { Candidate } from '../facts';

/** What the networks of families and instruments are asked with. */
export const soundVector = (timbre: ArrayLike<number>, stroke: ArrayLike<number>): Float32Array => {
  const out = new Float32Array(timbre.length + stroke.length);
  out.set(timbre);
  out.set(stroke, timbre.length);
  return out;
};

/**
 * The networks of families and of instruments were taught different questions and err at different sounds: of what they say of the families
 * the geometric mean is right more often than either. It is less sure than they are by so much.
 */
const togetherTemperature = 0.9;

/**
 * Probabilities of instruments: that of the family, of which both networks have a say, times that of the instrument within its family.
 * @param timbre see `timbreVector` @param stroke see `strokeFeatures`
 */
export function nameInstrument(
  timbre: readonly number[],
  stroke: readonly number[],
): {
  instruments: Candidate<string>[];
  families: Candidate<Family>[];
  /** Chances of the families in the model's own order, by the network of families alone: what rhythm was learned with. */
  familyScores: Float32Array;
} {
  const sound = soundVector(timbre, stroke),
    familyModel = model('family'),
    instrumentModel = model('instrument'),
    familyScores = classify(familyModel, sound),
    instrumentScores = classify(instrumentModel, sound);
  const within = new Map<string, number>();
  instrumentModel.labels.forEach((id, k) => {
    const family = instrumentById(id)?.family ?? '';
    within.set(family, (within.get(family) ?? 0) + instrumentScores[k]);
  });
  const weights = familyModel.labels.map(
      (label, k) => ((familyScores[k] + 1e-9) * ((within.get(label) ?? 0) + 1e-9)) ** (0.5 / togetherTemperature),
    ),
    sum = weights.reduce((a, b) => a + b, 0),
    families = familyModel.labels.map((label, k) => ({ value: label as Family, probability: weights[k] / sum }));
  const instruments = instrumentModel.labels.map((id, k) => {
    const family = instrumentById(id)?.family ?? '',
      share = instrumentScores[k] / Math.max(1e-9, within.get(family) ?? 0);
    return { value: id, probability: share * (families.find(({ value }) => value === family)?.probability ?? 0) };
  });
  const falling = (a: { probability: number }, b: { probability: number }) => b.probability - a.probability;
  return { instruments: instruments.sort(falling), families: families.sort(falling), familyScores };
}
