import { hits, rateHz, sine } from '../../../test/generators/signals';
import { createRandom } from '../../synth/random';
import { soundSpan } from './span';

const joined = (...parts: readonly Float32Array[]): Float32Array => Float32Array.from(parts.flatMap((part) => [...part]));
const silence = (seconds: number) => new Float32Array(Math.round(seconds * rateHz));

test('silence in front is measured to the millisecond', () => {
  for (const lead of [0.05, 0.25, 1.3]) {
    const { firstSoundSeconds, leadLevelDb } = soundSpan(joined(silence(lead), hits([0], 1)), rateHz);
    expect(Math.abs(firstSoundSeconds - lead)).toBeLessThan(0.001);
    expect(leadLevelDb).toBeLessThanOrEqual(-100);
  }
});
test('a file that begins with its sound has no lead', () => {
  const { firstSoundSeconds, leadLevelDb } = soundSpan(hits([0], 1), rateHz);
  expect(firstSoundSeconds).toBeLessThan(0.001);
  expect(leadLevelDb).toBe(0);
});
test('a floor of noise in front is no sound', () => {
  const random = createRandom(3),
    sound = joined(silence(0.4), hits([0], 1)).map((value) => value + 0.0008 * (random() - 0.5));
  const { firstSoundSeconds, leadLevelDb } = soundSpan(sound, rateHz);
  expect(Math.abs(firstSoundSeconds - 0.4)).toBeLessThan(0.003);
  expect(leadLevelDb).toBeGreaterThan(-80);
  expect(leadLevelDb).toBeLessThan(-40);
});
test('the end of the sound, and what the file ends with', () => {
  const cut = soundSpan(joined(sine(220, 1), silence(0.5)), rateHz);
  expect(Math.abs(cut.lastSoundSeconds - 1)).toBeLessThan(0.001);
  expect(cut.endLevelDb).toBe(-100);
  expect(cut.fileSeconds).toBeCloseTo(1.5, 6);
  const loop = soundSpan(sine(220, 1), rateHz);
  expect(loop.endLevelDb).toBeGreaterThan(-1);
  expect(loop.lastSoundSeconds).toBeCloseTo(1, 6);
});
test('noise that goes on behind the sound is no sound, and the cut is found to the millisecond', () => {
  const random = createRandom(5),
    sound = joined(sine(220, 1.2345), silence(0.4)).map((value) => value + 0.004 * (random() - 0.5));
  expect(Math.abs(soundSpan(sound, rateHz).lastSoundSeconds - 1.2345)).toBeLessThan(0.001);
});
test('a cut with silence behind falls far, a decay hardly, a file that ends with its sound not at all', () => {
  const decay = Float32Array.from({ length: 2 * rateHz }, (_, i) => Math.sin(i / 9) * Math.exp(-i / 9000));
  expect(soundSpan(joined(sine(220, 1), silence(0.5)), rateHz).endFallDb).toBeGreaterThan(60);
  expect(soundSpan(decay, rateHz).endFallDb).toBeLessThan(3);
  expect(soundSpan(sine(220, 1), rateHz).endFallDb).toBe(0);
});
test('a soft end is no floor: it is not even, or it is not far below the rest', () => {
  const random = createRandom(7),
    noise = Float32Array.from({ length: rateHz }, () => 0.1 * (random() - 0.5)),
    decay = Float32Array.from({ length: rateHz }, (_, i) => Math.sin(i / 9) * Math.exp(-i / 7000));
  expect(soundSpan(noise, rateHz).lastSoundSeconds).toBeGreaterThan(0.99);
  expect(soundSpan(decay, rateHz).lastSoundSeconds).toBeGreaterThan(0.95);
});
test('a fade ends where it passes −60 dB', () => {
  const fade = Float32Array.from({ length: 3 * rateHz }, (_, i) => Math.sin(i / 20) * 10 ** ((-40 * i) / rateHz / 20));
  // −40 dB a second: −60 dB after a second and a half.
  expect(Math.abs(soundSpan(fade, rateHz).lastSoundSeconds - 1.5)).toBeLessThan(0.02);
});
test('silence has neither beginning nor end', () =>
  expect(soundSpan(silence(1), rateHz)).toEqual({
    fileSeconds: 1,
    firstSoundSeconds: 0,
    lastSoundSeconds: 0,
    endFallDb: 0,
    endLevelDb: -100,
    leadLevelDb: 0,
  }));
