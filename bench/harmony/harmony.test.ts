import { loadTransforms } from '../../core/dsp/real-fft';
import { instrumentById } from '../../core/theory/instruments';
import { clashesFound } from './clashes';
import { demoUnderChords, pitchedDemoLoops } from './demo';
import { secondsOf } from '../audio/sanity-specimens';
import { bassShares, heardSource, pairOf } from './pairs';
import { soundAfterPlan } from './sound';

beforeAll(loadTransforms);
const mean = (list: readonly number[]) => list.reduce((sum, value) => sum + value, 0) / list.length;

test('over stated chords 95 % of what a bass plays is of the wanted chord, and far more than by the key alone', () => {
  const shares = Array.from({ length: 200 }, (_, number) => pairOf(number))
    .filter(({ family }) => family === 'bass')
    .map((pair) => bassShares(pair, pair.source));
  expect(mean(shares.map(({ after }) => after))).toBeGreaterThanOrEqual(0.95);
  expect(mean(shares.map(({ before }) => before))).toBeLessThan(0.7);
});
test('over chords as they are heard 85 %', () => {
  const shares = Array.from({ length: 14 }, (_, number) => pairOf(number)).map((pair) => bassShares(pair, heardSource(pair)));
  expect(mean(shares.map(({ after }) => after))).toBeGreaterThanOrEqual(0.85);
});
test.each([0, 3, 5])('loop %i under other chords: no burst at a join, no more peak than held tones make by themselves', (number) => {
  const { peakGrowthDb, joinGrowthDb, levelChangeDb, isFinite } = soundAfterPlan(pairOf(number));
  expect(isFinite).toBe(true);
  expect(peakGrowthDb).toBeLessThan(6);
  expect(joinGrowthDb).toBeLessThan(1.5);
  expect(Math.abs(levelChangeDb)).toBeLessThan(1.5);
});
test('demo loops under other chords, the shortest of each family: by roots and note by note they stay within what they were', () => {
  const shortestLast = [...pitchedDemoLoops()].sort((a, b) => secondsOf(b) - secondsOf(a)),
    byFamily = new Map(shortestLast.map((spec) => [instrumentById(spec.truth.instrument)?.family, spec])),
    found = [...byFamily.values()].flatMap(demoUnderChords);
  expect(new Set(found.map(({ way }) => way))).toEqual(new Set(['roots', 'notes']));
  for (const each of found) {
    const { name, way, peakGrowthDb, joinGrowthDb, levelChangeDb, isFinite } = each,
      isSane = isFinite && peakGrowthDb < 6.1 && joinGrowthDb < 3 && Math.abs(levelChangeDb) < 1.5;
    expect([name, way, isSane ? null : each]).toEqual([name, way, null]);
  }
});
test('planted clashes are found, and clean pieces are not called clashing', () => {
  const { planted, found, clean, falseOnes } = clashesFound(200);
  expect(found / planted).toBeGreaterThanOrEqual(0.95);
  expect(falseOnes / clean).toBeLessThanOrEqual(0.05);
});
