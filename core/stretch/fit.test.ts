import { chord, hits, rateHz, rms, seamDb, sine, zeroCrossingHz } from '../../test/generators/signals';
import { extractCycle } from './cycle';
import { formantsOf, vowelCycle } from '../../test/measures/formants';
import { partialsOf } from '../../test/measures/measures';
import { stretchModeRows } from './stretch-modes';
import { fitCycle } from './fit';
import { detectOnsets } from '../analysis/onsets/onsets';

const beat = 60 / 124;
const drumTimes = [0, 0.5, 1, 1.25, 2, 2.5, 3, 3.75].map((b) => b * beat + 0.002);

describe('fitting a cycle', () => {
  test('with nothing to do it is a copy, bit for bit', () => {
    const cycle = [sine(220, 1), sine(330, 1)];
    const fitted = fitCycle(cycle, [], { stretchMode: 'tonal', targetFrames: cycle[0].length, shiftSemitones: 0 });
    fitted.forEach((plane, channel) => expect(plane).toEqual(cycle[channel]));
    expect(fitted[0]).not.toBe(cycle[0]);
  });

  test.each([0.25, 0.5, 0.8, 0.968, 1.1, 1.25, 1.9, 4])('length is exact at ratio %d, all engines', (ratio) => {
    const cycle = [hits(drumTimes, 4 * beat)];
    const targetFrames = Math.round(cycle[0].length * ratio);
    for (const { mode: stretchMode } of stretchModeRows)
      expect(fitCycle(cycle, detectOnsets(cycle, rateHz), { stretchMode, targetFrames, shiftSemitones: 0 })[0].length).toBe(targetFrames);
  });

  test.each([0.8, 0.968, 1.25])('hits land within 1 ms of their scaled places at ratio %d', (ratio) => {
    const cycle = [hits(drumTimes, 4 * beat)];
    const fitted = fitCycle(cycle, detectOnsets(cycle, rateHz), {
      stretchMode: 'percussive',
      targetFrames: Math.round(cycle[0].length * ratio),
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
    const cycle = [sine(220, 2)];
    const [fitted] = fitCycle(cycle, [], { stretchMode: 'tonal', targetFrames: Math.round(cycle[0].length * ratio), shiftSemitones });
    const wanted = 220 * 2 ** (shiftSemitones / 12);
    expect(Math.abs(1200 * Math.log2(zeroCrossingHz(fitted.subarray(8000, fitted.length - 8000)) / wanted))).toBeLessThan(2);
    expect(rms(fitted) / rms(cycle[0])).toBeGreaterThan(0.9);
    expect(rms(fitted) / rms(cycle[0])).toBeLessThan(1.1);
  });

  test.each([0.8, 1.1, 1.25])('the seam of a fitted chord is no click at ratio %d (third difference at most 0 dB)', (ratio) => {
    const cycle = [chord([50, 57, 62, 65], 2)];
    const [fitted] = fitCycle(cycle, [], { stretchMode: 'tonal', targetFrames: Math.round(cycle[0].length * ratio), shiftSemitones: 0 });
    expect(seamDb(fitted)).toBeLessThanOrEqual(0);
  });

  test('stereo keeps its sides apart', () => {
    const cycle = [sine(220, 1), new Float32Array(rateHz)];
    const [left, right] = fitCycle(cycle, [], { stretchMode: 'tonal', targetFrames: 50000, shiftSemitones: 0 });
    expect(rms(right)).toBeLessThan(rms(left) * 1e-4);
  });

  test('silence stays silence, one frame and nonsense are refused or survive', () => {
    expect(rms(fitCycle([new Float32Array(9000)], [], { stretchMode: 'tonal', targetFrames: 10000, shiftSemitones: 3 })[0])).toBe(0);
    expect(() => fitCycle([sine(220, 1)], [], { stretchMode: 'tonal', targetFrames: NaN, shiftSemitones: 0 })).toThrow(RangeError);
    expect(() => fitCycle([sine(220, 1)], [], { stretchMode: 'tonal', targetFrames: 44100, shiftSemitones: 25 })).toThrow(RangeError);
    expect(() => fitCycle([sine(220, 1)], [], { stretchMode: 'tonal', targetFrames: 441000, shiftSemitones: 0 })).toThrow(/length ratio/);
    for (const { mode: stretchMode } of stretchModeRows)
      expect(fitCycle([new Float32Array([0.5])], [0], { stretchMode, targetFrames: 2, shiftSemitones: 0 })[0]).toHaveLength(2);
  });
});

describe('what is cut at its hits', () => {
  const cycle = [hits(drumTimes, 4 * beat)],
    onsets = detectOnsets(cycle, rateHz);
  test('keeps every attack as it is: the first 15 ms are a copy (within 1e-6)', () => {
    const [fitted] = fitCycle(cycle, onsets, {
      stretchMode: 'percussive',
      targetFrames: Math.round(cycle[0].length * 1.4),
      shiftSemitones: 0,
    });
    for (const onset of onsets) {
      const place = Math.round(onset * (fitted.length / cycle[0].length));
      for (let i = 0; i < 660; i++) expect(Math.abs(fitted[place + i] - cycle[0][onset + i])).toBeLessThan(1e-6);
    }
  });
  test('keeps what leads into a hit: where the source is silent in front of it, so is the result', () => {
    const [fitted] = fitCycle(cycle, onsets, {
      stretchMode: 'percussive',
      targetFrames: Math.round(cycle[0].length * 1.4),
      shiftSemitones: 0,
    });
    for (const onset of onsets.slice(1)) {
      const place = Math.round(onset * (fitted.length / cycle[0].length));
      expect(rms(fitted, place - 300, place - 60)).toBeLessThan(0.01 * rms(fitted, place, place + 240));
    }
  });
  test('a sound that dies away goes on dying away when it is lengthened to twice its length', () => {
    const decay = [Float32Array.from({ length: rateHz }, (_, i) => Math.sin(i * 0.3) * Math.exp(-i / 4000))],
      [twice] = fitCycle(decay, [0], { stretchMode: 'percussive', targetFrames: 2 * rateHz, shiftSemitones: 0 });
    expect(rms(twice, 1.6 * rateHz, 1.8 * rateHz)).toBeLessThan(rms(decay[0], 0.85 * rateHz, 0.95 * rateHz));
  });
});

describe('a wandering player', () => {
  const wander = [0, 0.02, -0.015, 0.018],
    times = [0, 1, 2, 3].map((k) => k * beat + wander[k] + 0.002),
    cycle = [hits(times, 4 * beat)],
    marks = times.map((time) => Math.round((time - 0.002) * rateHz));
  test('lands on the grid within 1 ms when drawn there', () => {
    const fitted = fitCycle(cycle, detectOnsets(cycle, rateHz), {
      stretchMode: 'percussive',
      targetFrames: Math.round(cycle[0].length * 1.1),
      shiftSemitones: 0,
      markFrames: marks,
    });
    detectOnsets(fitted, rateHz).forEach((frame, k) => expect(Math.abs(frame / rateHz - (k * beat + 0.002) * 1.1)).toBeLessThan(0.001));
  });
  test('is moved onto the grid even where the tempo stays', () => {
    const fitted = fitCycle(cycle, detectOnsets(cycle, rateHz), {
      stretchMode: 'percussive',
      targetFrames: cycle[0].length,
      shiftSemitones: 0,
      markFrames: marks,
    });
    detectOnsets(fitted, rateHz).forEach((frame, k) => expect(Math.abs(frame / rateHz - (k * beat + 0.002))).toBeLessThan(0.001));
  });
});

describe('a voice', () => {
  const formants = [530, 1840, 2480],
    cycle = [vowelCycle(110, formants, 0.6)];
  test.each([-5, 5])('keeps its formants within 5 %% when its pitch moves by %d', (shiftSemitones) => {
    const [fitted] = fitCycle(cycle, [], { stretchMode: 'voice', targetFrames: cycle[0].length, shiftSemitones });
    formantsOf(fitted, 110 * 2 ** (shiftSemitones / 12), formants).forEach((hz, k) =>
      expect(Math.abs(hz / formants[k] - 1)).toBeLessThan(0.05),
    );
    const [tones] = fitCycle(cycle, [], { stretchMode: 'tonal', targetFrames: cycle[0].length, shiftSemitones });
    expect(Math.abs(formantsOf(tones, 110 * 2 ** (shiftSemitones / 12), formants)[1] / formants[1] - 1)).toBeGreaterThan(0.1);
  });
  test('is given another character at the same pitch', () => {
    const [fitted] = fitCycle(cycle, [], { stretchMode: 'voice', targetFrames: cycle[0].length, shiftSemitones: 0, formantSemitones: 4 }),
      wanted = formants.map((hz) => hz * 2 ** (4 / 12));
    formantsOf(fitted, 110, wanted).forEach((hz, k) => expect(Math.abs(hz / wanted[k] - 1)).toBeLessThan(0.05));
    expect(() => fitCycle(cycle, [], { stretchMode: 'voice', targetFrames: 66150, shiftSemitones: 0, formantSemitones: 13 })).toThrow(
      RangeError,
    );
  });
});

test('a tape: pitch goes with the speed, an octave up at half the length', () => {
  const [fitted] = fitCycle([sine(220, 1)], [], { stretchMode: 'plain', targetFrames: rateHz / 2, shiftSemitones: 0 });
  expect(Math.abs(zeroCrossingHz(fitted) - 440)).toBeLessThan(0.5);
});

test('held tones taken out of hits waver less than tones that are cut at them', () => {
  const seconds = 4 * beat,
    partialsHz = [220, 277, 330].map((hz) => Math.round(hz * seconds) / seconds),
    tones = partialsHz.map((hz) => sine(hz, seconds, 0.15)),
    cycle = [hits(drumTimes, seconds).map((value, i) => value * 0.5 + tones.reduce((sum, tone) => sum + tone[i], 0))],
    onsets = drumTimes.map((time) => Math.round(time * rateHz)),
    wobble = (stretchMode: 'mixed' | 'apart') =>
      partialsOf(
        fitCycle(cycle, onsets, { stretchMode, targetFrames: Math.round(cycle[0].length * 1.25), shiftSemitones: 0 })[0],
        partialsHz,
      ).wobble;
  expect(wobble('apart')).toBeLessThan(0.6 * wobble('mixed'));
});

describe('cutting a cycle', () => {
  test('a quiet tail is folded into the start; further music is not', () => {
    const file = new Float32Array(3000);
    file.fill(0.5, 0, 1000);
    file.fill(0.05, 1000, 1200);
    const [cycle] = extractCycle([file], 0, 1000);
    expect(cycle[100]).toBeCloseTo(0.55, 6);
    expect(cycle[300]).toBeCloseTo(0.5, 6);
    expect(extractCycle([file], 0, 1000, 'cut')[0][100]).toBe(0.5);
    file.fill(0.5, 1000, 2000);
    expect(extractCycle([file], 0, 1000)[0][100]).toBe(0.5);
    expect(extractCycle([file], 0, 1000, 'wrap')[0][100]).toBe(1);
  });
  test('a file that is a little short is filled with silence', () => {
    const [cycle] = extractCycle([new Float32Array(900).fill(0.2)], 0, 1000);
    expect(cycle).toHaveLength(1000);
    expect(cycle[950]).toBe(0);
  });
});
