import { chord, hits, rateHz, sine } from '../../../test/generators/signals';
import { kindFeatures } from '../kind/kind-features';
import { model } from '../learned/models';
import { hear } from '../listen/hear';
import { measurePulse } from '../tempo/candidates';
import { sharedRhythmFeatures } from '../tempo/candidate-features';
import { nameInstrument } from './name-instrument';
import { strokeFeatures } from './stroke';
import { timbreVector } from './timbre';

const heardOf = (sound: Float32Array) => hear({ sampleRateHz: rateHz, channels: [sound] });
const groove = hits(
  Array.from({ length: 8 }, (_, k) => k * 0.25 + 0.001),
  2,
);

test('level does not matter: a tenth of the amplitude gives nearly the same numbers', () => {
  const loud = timbreVector(heardOf(groove)),
    soft = timbreVector(heardOf(groove.map((value) => value * 0.1)));
  loud.forEach((value, k) => expect(Math.abs(value - soft[k])).toBeLessThan(0.02));
});

test('the vector is as long as the networks want it, and made of numbers, whatever comes', () => {
  for (const sound of [groove, chord([48, 55, 64], 2), sine(60, 1), new Float32Array(1).fill(0.3), new Float32Array(rateHz).fill(0.5)]) {
    const heard = heardOf(sound),
      vector = timbreVector(heard);
    expect(vector).toHaveLength(model('pitched').mean.length);
    expect([...vector, ...strokeFeatures(heard)]).toHaveLength(model('family').mean.length);
    expect(vector.every(Number.isFinite)).toBe(true);
    const kind = [...vector, ...kindFeatures(sharedRhythmFeatures(heard, measurePulse(heard.onsets)))];
    expect(kind).toHaveLength(model('loop').mean.length);
    expect(kind.every(Number.isFinite)).toBe(true);
  }
});

test('instruments and families sum to 1, and agree', () => {
  const { instruments, families } = nameInstrument(timbreVector(heardOf(groove)), strokeFeatures(heardOf(groove)));
  for (const list of [instruments, families]) expect(list.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 4);
  expect(['drums', 'percussion', 'fx']).toContain(families[0].value);
});

test('bars of a whole tempo are told from a length that fits none', () => {
  const fit = (seconds: number) =>
    kindFeatures(sharedRhythmFeatures(heardOf(hits([0.001, 0.5], seconds)), measurePulse(heardOf(hits([0.001, 0.5], seconds)).onsets)))[0];
  expect(fit(4)).toBeGreaterThan(0.9);
  expect(fit(4.0371)).toBeLessThan(0.1);
});
