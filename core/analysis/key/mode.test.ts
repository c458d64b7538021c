import { modeOf } from './mode';

const scale = (tonic: number, steps: readonly number[]) =>
  Array.from({ length: 12 }, (_, pitch) => (steps.includes((pitch - tonic + 12) % 12) ? 0.05 : 0.001));

test.each([
  ['dorian', 'minor', [0, 2, 3, 5, 7, 9, 10]],
  ['phrygian', 'minor', [0, 1, 3, 5, 7, 8, 10]],
  ['mixolydian', 'major', [0, 2, 4, 5, 7, 9, 10]],
  ['lydian', 'major', [0, 2, 4, 6, 7, 9, 11]],
  [null, 'minor', [0, 2, 3, 5, 7, 8, 10]],
  [null, 'major', [0, 2, 4, 5, 7, 9, 11]],
  // A chord alone leaves it open; the sixth in both forms too.
  [null, 'minor', [0, 3, 7]],
  [null, 'minor', [0, 2, 3, 5, 7, 8, 9, 10]],
  [null, 'major', [0, 2, 4, 6, 7, 9, 10]],
] as const)('%s in %s, on every tonic', (name, mode, steps) => {
  for (let tonic = 0; tonic < 12; tonic++) expect(modeOf(scale(tonic, steps), { tonic, mode })).toBe(name);
});
