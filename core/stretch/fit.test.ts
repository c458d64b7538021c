import { chord, hits, rateHz, rms, seamDb, sine, zeroCrossingHz } from '../../test/generators/signals';
import { extractCycle } from './cycle';
import { fitCycle } from './fit';
import { detectOnsets } from '../analysis/onsets/onsets';

const beat = 60 / 124;
const drumTimes = [0, 0.5, 1, 1.25, 2, 2.5, 3, 3.75].map((b) => b * beat + 0.002);

describe('fitting a lap', () => {
  test('with nothing to do it is a copy, bit for bit', () => {
    const lap = [sine(220, 1), sine(330, 1)];
    const fitted = fitCycle(lap, [], { engine: 'tonal', targetFrames: lap[0].length, shiftSemitones: 0 });
    fitted.forEach((plane, channel) => expect(plane).toEqual(lap[channel]));
    expect(fitted[0]).not.toBe(lap[0]);
  });

  test.each([0.5, 0.8, 0.968, 1.1, 1.25, 1.9])('length is exact at ratio %d, both engines', (ratio) => {
    const lap = [hits(drumTimes, 4 * beat)];
    const targetFrames = Math.round(lap[0].length * ratio);
    for (const engine of ['percussive', 'tonal'] as const)
      expect(fitCycle(lap, detectOnsets(lap, rateHz), { engine, targetFrames, shiftSemitones: 0 })[0].length).toBe(targetFrames);
  });

  test.each([0.8, 0.968, 1.25])('hits land within 1 ms of their scaled places at ratio %d', (ratio) => {
    const lap = [hits(drumTimes, 4 * beat)];
    const fitted = fitCycle(lap, detectOnsets(lap, rateHz), {
      engine: 'percussive',
      targetFrames: Math.round(lap[0].length * ratio),
      shiftSemitones: 0,
    });
    const found = detectOnsets(fitted, rateHz).map((frame) => frame / rateHz);
    expect(found).toHaveLength(drumTimes.length);
    drumTimes.forEach((time, index) => expect(Math.abs(found[index] - time * ratio)).toBeLessThan(0.001));
  });

  test.each([
    [0.8, 0],
    [1.25, 0],
    [1, 5],
    [0.968, -5],
  ])('a tone keeps or moves its pitch as asked: ratio %d, shift %d (within 2 cents)', (ratio, shiftSemitones) => {
    const lap = [sine(220, 2)];
    const [fitted] = fitCycle(lap, [], { engine: 'tonal', targetFrames: Math.round(lap[0].length * ratio), shiftSemitones });
    const wanted = 220 * 2 ** (shiftSemitones / 12);
    expect(Math.abs(1200 * Math.log2(zeroCrossingHz(fitted.subarray(8000, fitted.length - 8000)) / wanted))).toBeLessThan(2);
    expect(rms(fitted) / rms(lap[0])).toBeGreaterThan(0.9);
    expect(rms(fitted) / rms(lap[0])).toBeLessThan(1.1);
  });

  test.each([0.8, 1.1, 1.25])('the seam of a fitted chord is no click at ratio %d (third difference at most 0 dB)', (ratio) => {
    const lap = [chord([50, 57, 62, 65], 2)];
    const [fitted] = fitCycle(lap, [], { engine: 'tonal', targetFrames: Math.round(lap[0].length * ratio), shiftSemitones: 0 });
    expect(seamDb(fitted)).toBeLessThanOrEqual(0);
  });

  test('stereo keeps its sides apart', () => {
    const lap = [sine(220, 1), new Float32Array(rateHz)];
    const [left, right] = fitCycle(lap, [], { engine: 'tonal', targetFrames: 50000, shiftSemitones: 0 });
    expect(rms(right)).toBeLessThan(rms(left) * 1e-4);
  });

  test('silence stays silence, one frame and nonsense are refused or survive', () => {
    expect(rms(fitCycle([new Float32Array(9000)], [], { engine: 'tonal', targetFrames: 10000, shiftSemitones: 3 })[0])).toBe(0);
    expect(() => fitCycle([sine(220, 1)], [], { engine: 'tonal', targetFrames: NaN, shiftSemitones: 0 })).toThrow(RangeError);
    expect(() => fitCycle([sine(220, 1)], [], { engine: 'tonal', targetFrames: 44100, shiftSemitones: 25 })).toThrow(RangeError);
    expect(() => fitCycle([sine(220, 1)], [], { engine: 'tonal', targetFrames: 441000, shiftSemitones: 0 })).toThrow(/length ratio/);
  });
});

describe('cutting a lap', () => {
  test('a quiet tail is folded into the start; further music is not', () => {
    const file = new Float32Array(3000);
    file.fill(0.5, 0, 1000);
    file.fill(0.05, 1000, 1200);
    const [lap] = extractCycle([file], 0, 1000);
    expect(lap[100]).toBeCloseTo(0.55, 6);
    expect(lap[300]).toBeCloseTo(0.5, 6);
    file.fill(0.5, 1000, 2000);
    expect(extractCycle([file], 0, 1000)[0][100]).toBe(0.5);
  });
  test('a file that is a little short is filled with silence', () => {
    const [lap] = extractCycle([new Float32Array(900).fill(0.2)], 0, 1000);
    expect(lap).toHaveLength(1000);
    expect(lap[950]).toBe(0);
  });
});
