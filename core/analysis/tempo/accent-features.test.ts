import { accentFeatureCount, accentFeatures, cycleShare } from './accent-features';

const waltz = Array.from({ length: 12 }, (_, k) => (k % 3 === 0 ? 3 : 1)),
  march = Array.from({ length: 16 }, (_, k) => (k % 4 === 0 ? 3 : k % 2 === 0 ? 2 : 1));

test('every third beat strong: a cycle of three explains all of it, cycles of two and four nothing', () => {
  expect(cycleShare(waltz, 3)).toBeCloseTo(1);
  expect(cycleShare(waltz, 2)).toBeLessThan(0.05);
  expect(cycleShare(waltz, 4)).toBeLessThan(0.05);
});

test('a march is explained by four wholly, by two in part, by three not at all', () => {
  expect(cycleShare(march, 4)).toBeCloseTo(1);
  expect(cycleShare(march, 2)).toBeGreaterThan(0.5);
  expect(cycleShare(march, 2)).toBeLessThan(0.95);
  expect(cycleShare(march, 3)).toBeLessThan(0.05);
});

test.each([
  ['nothing', [], 3],
  ['a row shorter than two cycles', [1, 2, 1, 2, 1], 3],
  ['a row without variance', [1, 1, 1, 1, 1, 1], 2],
])('%s says nothing', (_, values, cycle) => expect(cycleShare(values, cycle)).toBe(0));

test('features are as many as said, and tell where a waltz comes round', () => {
  const comesRound = (beats: number) => (beats % 3 === 0 ? 1 : 0),
    features = accentFeatures({ all: waltz, low: waltz, turns: waltz, onsetsAt: comesRound, colourAt: comesRound, notesAt: comesRound });
  expect(features).toHaveLength(accentFeatureCount);
  expect(features.slice(-5)).toEqual([0, 1, 0, 1, 0]);
  expect(features[1]).toBeCloseTo(1);
});
