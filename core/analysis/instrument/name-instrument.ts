import { instrumentById, type Family } from '../../theory/instruments';
import { classify } from '../learned/network';
import { model } from '../learned/models';
import type { Candidate } from '../facts';

/**
 * Probabilities of instruments: that of the family times that of the instrument within its family.
 * @param sound the timbre vector, and behind it the stroke's features
 */
export function nameInstrument(sound: readonly number[]): {
  instruments: Candidate<string>[];
  families: Candidate<Family>[];
  /** Chances of the families in the model's own order. */
  familyScores: Float32Array;
} {
  const familyModel = model('family'),
    instrumentModel = model('instrument'),
    familyScores = classify(familyModel, sound),
    instrumentScores = classify(instrumentModel, sound);
  const families = familyModel.labels.map((label, k) => ({ value: label as Family, probability: familyScores[k] }));
  const within = new Map<string, number>();
  instrumentModel.labels.forEach((id, k) => {
    const family = instrumentById(id)?.family ?? '';
    within.set(family, (within.get(family) ?? 0) + instrumentScores[k]);
  });
  const instruments = instrumentModel.labels.map((id, k) => {
    const family = instrumentById(id)?.family ?? '',
      share = instrumentScores[k] / Math.max(1e-9, within.get(family) ?? 0);
    return { value: id, probability: share * (families.find(({ value }) => value === family)?.probability ?? 0) };
  });
  const falling = (a: { probability: number }, b: { probability: number }) => b.probability - a.probability;
  return { instruments: instruments.sort(falling), families: families.sort(falling), familyScores };
}
