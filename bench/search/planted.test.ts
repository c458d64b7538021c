import { findPlanted } from './planted';

test('a loop that was made for a project stands among the first ten of 2,000 others, by far more often than by stretch and shift alone', () => {
  const { pitched, all } = findPlanted(12, 5000);
  expect(pitched.byFit).toBeGreaterThanOrEqual(0.9);
  expect(all.byFit).toBeGreaterThanOrEqual(0.75);
  expect(all.byFit).toBeGreaterThan(all.byStretchAndShift);
});
