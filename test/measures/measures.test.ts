import { createRandom } from '../../core/synth/random';
import { formantsOf, vowelCycle } from './formants';
import { attackMs, audibleHits, hitErrorMs, partialsOf, preEchoDb, spectralDistanceDb } from '../../test/measures/measures';
import { chordPartialsHz, chords } from '../../bench/audio/steady';

const rateHz = 44100;
const sineSum = (parts: readonly (readonly [hz: number, gain: number])[], seconds: number, swell = 0): Float32Array =>
  Float32Array.from({ length: seconds * rateHz }, (_, i) =>
    parts.reduce(
      (sum, [hz, gain]) =>
        sum + gain * (1 + swell * Math.sin((2 * Math.PI * 2 * i) / rateHz)) * Math.sin((2 * Math.PI * hz * i) / rateHz + hz),
      0,
    ),
  );
/** Short bursts of noise that die away, at some frames. */
function bursts(frames: readonly number[], length: number, decaySeconds = 0.02, rise = 0): Float32Array {
  const out = new Float32Array(length);
  for (const frame of frames) {
    const random = createRandom(7);
    for (let i = 0; frame + i < length && i < 4000; i++)
      out[frame + i] += (random() * 2 - 1) * Math.exp(-i / (decaySeconds * rateHz)) * (rise ? Math.min(1, i / rise) : 1);
  }
  return out;
}

test('steady partials do not wobble, swelling ones do, and what is not a partial is not explained', () => {
  const parts = [
      [220, 0.3],
      [240, 0.2],
      [660, 0.1],
    ] as const,
    partials = parts.map(([hz]) => hz),
    steady = partialsOf(sineSum(parts, 1), partials);
  expect(steady.wobble).toBeLessThan(0.001);
  expect(steady.explainedDb).toBeGreaterThan(60);
  // A sine of 30 % has a deviation of 0.3 / √2; the window smooths a little of it.
  expect(partialsOf(sineSum(parts, 1, 0.3), partials).wobble).toBeCloseTo(0.3 / Math.SQRT2, 1);
  const random = createRandom(3),
    noisy = sineSum(parts, 1).map((value) => value + 0.03 * (random() * 2 - 1));
  // The power of the tones, ½ Σ gain², over that of the noise, 0.03² / 3.
  expect(partialsOf(noisy, partials).explainedDb).toBeCloseTo(10 * Math.log10(0.07 / (0.03 ** 2 / 3)), 0);
});

test('the partials of the bench’s just chords lie far enough apart to be told, and whole periods fill a cycle', () => {
  for (const chord of chords.just)
    for (const shift of [0, -12]) {
      const sorted = chordPartialsHz(chord, shift).sort((a, b) => a - b);
      for (let k = 1; k < sorted.length; k++) expect(sorted[k] - sorted[k - 1]).toBeGreaterThan(2 * (rateHz / 8192));
      if (shift === 0) for (const hz of sorted) expect((hz * 4) % 1).toBe(0);
    }
});

test.each([0, 1, -2.5, 7])('a hit that starts %f ms late is found so', (lateMs) => {
  const truth = bursts([5000], 20000),
    late = bursts([5000 + Math.round((lateMs * rateHz) / 1000)], 20000);
  expect(Math.abs(hitErrorMs(truth, late, 5000) - lateMs)).toBeLessThan(0.1);
});

test('an attack is as long as it rises', () => {
  const tone = sineSum([[3000, 0.5]], 1),
    rise = Math.round(0.01 * rateHz),
    sound = tone.map((value, i) => (i < 10000 ? 0 : value * Math.min(1, (i - 10000) / rise)));
  // From 10 to 90 % of a straight line of 10 ms.
  expect(attackMs(sound, 10000)).toBeGreaterThan(7);
  expect(attackMs(sound, 10000)).toBeLessThan(9);
  expect(attackMs(bursts([10000], 30000), 10000)).toBeLessThan(1);
});

test('what sounds before a hit is told against the hit; silence counts as inaudible', () => {
  const hit = bursts([10000], 30000, 1);
  expect(preEchoDb(hit, 10000)).toBe(-60);
  const before = hit.map((value, i) => (i < 10000 && i > 8000 ? 0.1 * hit[i + 2500] : value));
  expect(preEchoDb(before, 10000)).toBeGreaterThan(-22);
  expect(preEchoDb(before, 10000)).toBeLessThan(-18);
});

test('a hit counts that stands out and stands alone', () => {
  const alone = bursts([4000, 14000], 40000);
  expect(audibleHits(alone, [4000, 14000])).toEqual([4000, 14000]);
  // 20 ms after another it can't be told from it, and one a hundredth as loud is not heard.
  expect(audibleHits(bursts([4000, 4900, 14000], 40000), [4000, 4900, 14000])).toEqual([14000]);
  const quiet = bursts([30000], 40000);
  expect(
    audibleHits(
      alone.map((value, i) => value + 0.01 * quiet[i]),
      [4000, 14000, 30000],
    ),
  ).toEqual([4000, 14000]);
});

test('a spectrum has no distance from itself, and twice as loud is 6 dB away', () => {
  const random = createRandom(9),
    noise = Float32Array.from({ length: 20000 }, () => random() * 2 - 1);
  expect(spectralDistanceDb(noise, noise)).toBe(0);
  expect(
    spectralDistanceDb(
      noise,
      noise.map((value) => value * 2),
    ),
  ).toBeCloseTo(20 * Math.log10(2), 1);
});

test.each([100, 165])('formants of a vowel sung at %i Hz are found where they are, moved ones where they went', (pitchHz) => {
  const vowel = [730, 1090, 2440],
    moved = vowel.map((hz) => hz * 1.08);
  formantsOf(vowelCycle(pitchHz, vowel, 1), pitchHz, vowel).forEach((hz, k) => expect(Math.abs(hz / vowel[k] - 1)).toBeLessThan(0.01));
  formantsOf(vowelCycle(pitchHz, moved, 1), pitchHz, vowel).forEach((hz, k) => expect(Math.abs(hz / moved[k] - 1)).toBeLessThan(0.03));
});
