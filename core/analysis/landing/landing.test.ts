import { createRandom } from '../../synth/random';
import { landingOf } from './landing';

const rateHz = 22050,
  random = createRandom(11),
  sound = (seconds: number, level: (t: number) => number): Float32Array =>
    Float32Array.from({ length: Math.round(seconds * rateHz) }, (_, i) => (random() - 0.5) * level(i / rateHz));

describe('what rises lands where its rise ends', () => {
  test.each([
    ['cut at its top', 4, (t: number) => 10 ** (-2 + t / 2), 4],
    ['with a second that rings behind it', 5, (t: number) => (t < 4 ? 10 ** (-2 + t / 2) : 0.2 * Math.exp(-(t - 4) * 6)), 4],
    ['with silence before and behind it', 5, (t: number) => (t < 0.5 || t > 3.5 ? 0 : 10 ** (-2 + (t - 0.5) / 1.5)), 3.5],
    ['by eight decibels only', 3, (t: number) => 10 ** (-0.4 + (0.4 * t) / 3), 3],
  ])('%s', (_, seconds, level, at) => {
    const landing = landingOf(sound(seconds, level), rateHz);
    expect(landing?.way).toBe('rises');
    expect(Math.abs((landing?.seconds ?? 0) - at)).toBeLessThan(0.03);
  });
});

describe('anything else lands at its strongest attack', () => {
  test.each([
    ['a hit at the start', (t: number) => Math.exp(-t * 4), 0],
    ['a hit behind a soft breath', (t: number) => (t < 0.6 ? 0.02 : Math.exp(-(t - 0.6) * 4)), 0.6],
    ['the second of two hits, which is louder', (t: number) => (t < 1 ? 0.3 * Math.exp(-t * 12) : Math.exp(-(t - 1) * 4)), 1],
    ['a sound that only falls', (t: number) => 1 - t / 3, 0],
  ])('%s', (_, level, at) => {
    const landing = landingOf(sound(3, level), rateHz);
    expect(landing?.way).toBe('strikes');
    expect(Math.abs((landing?.seconds ?? 9) - at)).toBeLessThan(0.03);
  });
});

test('it does not hang on how loud the sound is, and silence has none', () => {
  const riser = sound(3, (t) => 10 ** (-2 + t / 2)),
    soft = riser.map((sample) => sample / 300);
  expect(landingOf(soft, rateHz)).toEqual(landingOf(riser, rateHz));
  expect(landingOf(new Float32Array(rateHz), rateHz)).toBeNull();
  expect(landingOf(new Float32Array(0), rateHz)).toBeNull();
});
