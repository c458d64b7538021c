import { chord, hits, rateHz } from '../../../test/generators/signals';
import { noteToHz } from '../../units/pitch';
import { toneFrames } from './tones';

/** A chord of four voices with harmonics, all `cents` off. */
function tuned(cents: number): Float32Array {
  const out = new Float32Array(3 * rateHz);
  for (const note of [48, 60, 64, 67])
    for (let harmonic = 1; harmonic <= 5; harmonic++) {
      const turn = (2 * Math.PI * noteToHz(note + cents / 100) * harmonic) / rateHz;
      for (let i = 0; i < out.length; i++) out[i] += (0.15 / harmonic) * Math.sin(turn * i);
    }
  return out;
}

test.each([-45, -23, -8, 0, 5, 17, 38])('tuning of tones that are %i cents off', (cents) => {
  const { tuningCents, tuningAgreement } = toneFrames(tuned(cents), rateHz, 1);
  expect(Math.abs(tuningCents - cents)).toBeLessThan(1.5);
  expect(tuningAgreement).toBeGreaterThan(0.8);
});
test('a full-scale sine peaks at about 1 in its own bin', () => {
  const hz = (100 * rateHz) / 16384,
    { magnitudes, bins, binHz } = toneFrames(
      Float32Array.from({ length: 2 * rateHz }, (_, i) => Math.sin((2 * Math.PI * hz * i) / rateHz)),
      rateHz,
      1,
    );
  const frame = magnitudes.subarray(8 * bins, 9 * bins);
  expect(frame.indexOf(Math.max(...frame))).toBe(100);
  expect(frame[100]).toBeCloseTo(1, 1);
  expect(binHz * 100).toBeCloseTo(hz, 6);
});
test('steady tones sit in peaks that last; bursts of noise do not', () => {
  const steady = toneFrames(chord([48, 55, 60], 2), rateHz, 1).peakShare,
    noisy = toneFrames(hits([0, 0.3, 0.6, 0.9, 1.2, 1.5], 2), rateHz, 1).peakShare;
  expect(steady).toBeGreaterThan(0.8);
  expect(noisy).toBeLessThan(0.3);
});
test('silence is in no tuning', () =>
  expect(toneFrames(new Float32Array(rateHz), rateHz, 0)).toMatchObject({ tuningCents: 0, tuningAgreement: 0, peakShare: 0 }));
