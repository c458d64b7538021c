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
/** And of an instrument, which is both, they may be a little less sure. */
const instrumentTemperature = 1.1;

/**
 * Probabilities of instruments: that of the family, of which both networks have a say, times that of the instrument within its family; and of
 * the families, as sums of these.
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
    chances = instrumentModel.labels.map((id, k) => {
      const family = instrumentById(id)?.family,
        share = instrumentScores[k] / Math.max(1e-9, within.get(family ?? '') ?? 0);
      return family ? (share * weights[familyModel.labels.indexOf(family)]) ** (1 / instrumentTemperature) : 0;
    }),
    sum = chances.reduce((a, b) => a + b, 0),
    instruments = instrumentModel.labels.map((value, k) => ({ value, probability: chances[k] / sum })),
    families = familyModel.labels.map((label) => ({
      value: label as Family,
      probability: instruments.reduce(
        (total, { value, probability }) => total + (instrumentById(value)?.family === label ? probability : 0),
        0,
      ),
    }));
  const falling = (a: { probability: number }, b: { probability: number }) => b.probability - a.probability;
  return { instruments: instruments.sort(falling), families: families.sort(falling), familyScores };
}
