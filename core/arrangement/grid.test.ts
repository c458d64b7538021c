import { gridBeats, snapped } from './grid';

test.each([
  ['bar', 6.2, 6],
  ['beat', 6.6, 7],
  ['half', 6.6, 6.5],
  ['quarter', 6.6, 6.5],
  ['triplet', 6.6, 20 / 3],
  ['off', 6.612, 6.612],
] as const)('%s', (grid, beat, line) => expect(snapped(beat, gridBeats(grid, 3))).toBeCloseTo(line, 12));
