import { cutFeatureCount, cutFeatures } from './cut-features';

const padded = { fileSeconds: 5, lastSoundSeconds: 4, endFallDb: 60 };

test('a bar line at a cut is told from one beside it', () => {
  const at = cutFeatures(padded, 4),
    beside = cutFeatures(padded, 4.02);
  expect(at).toEqual([1, 1, 1, 1, 1]);
  expect(beside.slice(0, 2)).toEqual([1, 1]);
  expect(beside[3]).toBeLessThan(0.05);
  expect(beside[4]).toBeLessThan(1e-9);
});

test('where the sound dies away softly its end says little', () => {
  const soft = cutFeatures({ ...padded, endFallDb: 2 }, 4);
  expect(soft[2]).toBe(1);
  expect(soft[3]).toBeCloseTo(0.05, 6);
});

test('a file that ends with its sound has no cut', () =>
  expect(cutFeatures({ fileSeconds: 4, lastSoundSeconds: 4, endFallDb: 0 }, 4)).toEqual(Array.from({ length: cutFeatureCount }, () => 0)));
