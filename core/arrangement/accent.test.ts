import fc from 'fast-check';
import { sixteenthsOf, turnOnto } from './accent';

const oneBar = (beats: readonly number[]) =>
  sixteenthsOf(
    [0, 0.5, 1, 1.5, 2, 2.5, 3, 3.5].map((beat) => ({ beat, strength: beats.includes(beat) ? 1 : 0.3 })),
    4,
  );

test('hits count for the sixteenth they lie nearest to, across the seam too', () => {
  const found = sixteenthsOf(
    [
      { beat: 0.02, strength: 0.5 },
      { beat: 3.99, strength: 0.9 },
      { beat: 1.26, strength: 1 },
    ],
    4,
  );
  expect(found[0]).toBe(0.9);
  expect(found[5]).toBe(1);
});

test.each([
  ['from one to two and four', oneBar([0, 2]), [1, 3], 0, 0, [1, -1]],
  ['where it lies already, nothing is turned', oneBar([1, 3]), [1, 3], 0, 0, [0]],
  ['a clip that begins on beat 2 of its bar', oneBar([0, 2]), [1, 3], 1, 0, [0]],
  ['one that has been turned before', oneBar([0, 2]), [1, 3], 0, 1, [0]],
  ['onto one alone', oneBar([1.5]), [0], 0, 0, [1.5]],
] as const)('%s', (_, strengths, wanted, startBeat, offset, allowed) => {
  expect(allowed).toContain(turnOnto(strengths, wanted, 4, startBeat, offset));
});

test('whatever it was turned by before, its accent lands on two and four', () => {
  fc.assert(
    fc.property(fc.integer({ min: 0, max: 15 }), fc.integer({ min: 0, max: 40 }), (turned, start) => {
      const strengths = oneBar([0, 2]),
        [offset, startBeat] = [turned / 4, start / 4],
        then = offset + turnOnto(strengths, [1, 3], 4, startBeat, offset),
        heardAt = (beat: number) => strengths[((Math.round((beat - startBeat + then) * 4) % 16) + 16) % 16];
      expect(heardAt(41)).toBe(1);
      expect(heardAt(43)).toBe(1);
    }),
  );
});
