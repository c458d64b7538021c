import { rateHz, sine } from '../../../test/generators/signals';
import { measureLevels } from './levels';

describe('levels (ITU-R BS.1770-4; EBU Tech 3341 and 3342)', () => {
  test('3341, case 1: a stereo sine of 1 kHz at −23 dBFS has −23 LUFS for the short term too, within 0.1', () => {
    const tone = sine(1000, 20, 10 ** (-23 / 20));
    const { shortTermMaxLufs, integratedLufs } = measureLevels([tone, tone], rateHz);
    expect(Math.abs((shortTermMaxLufs ?? 0) + 23)).toBeLessThan(0.1);
    expect(Math.abs((integratedLufs ?? 0) + 23)).toBeLessThan(0.1);
  });
  test.each([
    [-20, -30, 10],
    [-20, -15, 5],
    [-40, -20, 20],
  ])('3342: 20 s at %d, 20 s at %d dBFS have a range of %d LU within 1', (first, second, range) => {
    const sound = new Float32Array(40 * rateHz);
    sound.set(sine(1000, 20, 10 ** (first / 20)));
    sound.set(sine(1000, 20, 10 ** (second / 20)), 20 * rateHz);
    expect(Math.abs((measureLevels([sound, sound], rateHz).rangeLu ?? 0) - range)).toBeLessThanOrEqual(1);
  });
  test('true peak: a sine of a quarter of the rate, 45° off, peaks 3 dB above its samples (BS.1770-4, annex 2), within 0.4', () => {
    const tone = Float32Array.from({ length: rateHz }, (_, k) => 0.5 * Math.sin((Math.PI / 2) * k + Math.PI / 4));
    expect(Math.abs((measureLevels([tone], rateHz).truePeakDbtp ?? 0) - -6.02)).toBeLessThan(0.4);
  });
});

test('clipping, DC, width and what mono costs', () => {
  const tone = sine(200, 1, 0.5);
  expect(measureLevels([tone.map((value) => Math.max(-1, Math.min(1, value * 4)))], rateHz).clippedRuns).toBeGreaterThan(100);
  expect(measureLevels([tone], rateHz).clippedRuns).toBe(0);
  expect(measureLevels([tone.map((value) => value + 0.1)], rateHz).dc).toBeCloseTo(0.1, 2);
  expect(measureLevels([tone, tone], rateHz)).toMatchObject({ width: 0, monoLossDb: expect.closeTo(0, 3) });
  const opposed = measureLevels([tone, tone.map((value) => -value)], rateHz);
  expect(opposed.width).toBe(1);
  expect(opposed.monoLossDb).toBeGreaterThan(40);
});

test.each([
  ['nothing', new Float32Array(0)],
  ['one frame', new Float32Array(1)],
  ['silence', new Float32Array(rateHz)],
])('%s has no level', (_, plane) =>
  expect(measureLevels([plane], rateHz)).toMatchObject({
    integratedLufs: null,
    shortTermMaxLufs: null,
    rangeLu: null,
    truePeakDbtp: null,
    noiseFloorDbfs: null,
    clippedRuns: 0,
  }),
);
