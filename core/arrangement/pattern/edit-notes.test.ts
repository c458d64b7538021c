import { patternNote as note } from '../../../test/generators/pattern-note';
import { parseKey, type Key } from '../../theory/key';
import { humanised, legato, moved, nearestLine, quantised, repeated, reversed, transposed, transposedInScale } from './edit-notes';

const key = (text: string): Key => parseKey(text) as Key;
let count = 0;
const newId = () => `n${count++}`;

describe('what is done to notes', () => {
  test('quantised by strength, straight and swung', () => {
    expect(quantised([note(0.2, 60), note(0.45, 60)], 0.5, 1, 0).map(({ startBeat }) => startBeat)).toEqual([0, 0.5]);
    expect(quantised([note(0.2, 60)], 0.5, 0.5, 0)[0].startBeat).toBeCloseTo(0.1, 9);
    expect(nearestLine(0.6, 0.5, 1)).toBe(0.75);
    expect(nearestLine(1.02, 0.5, 1)).toBe(1);
  });
  test('humanised: a little, and the same for the same seed', () => {
    const notes = Array.from({ length: 50 }, (_, k) => note(k, 60)),
      out = humanised(notes, 1, 3);
    expect(out).toEqual(humanised(notes, 1, 3));
    expect(out).not.toEqual(humanised(notes, 1, 4));
    for (const [k, each] of out.entries()) {
      expect(Math.abs(each.startBeat - k)).toBeLessThanOrEqual(1 / 16);
      expect(Math.abs(each.velocity - 100)).toBeLessThanOrEqual(25);
    }
  });
  test('transposed, in the scale, held, backwards, moved, once more', () => {
    expect(transposed([note(0, 126)], 5)[0].pitch).toBe(127);
    expect(transposedInScale([note(0, 64)], key('C'), 1)[0].pitch).toBe(65);
    expect(legato([note(0, 60, 0.1), note(0, 64, 0.1), note(2, 67, 0.1)]).map(({ lengthBeats }) => lengthBeats)).toEqual([2, 2, 0.1]);
    expect(reversed([note(0, 60, 1), note(2, 64, 2)]).map(({ startBeat }) => startBeat)).toEqual([3, 0]);
    expect(moved([note(0, 60), note(1, 62)], { beats: -1, semitones: 2 }).map(({ startBeat, pitch }) => [startBeat, pitch])).toEqual([
      [0, 62],
      [1, 64],
    ]);
    expect(repeated([note(0, 60), note(0.9, 62, 0.2)], 0.5, newId).map(({ startBeat }) => startBeat)).toEqual([1.5, 2.4]);
  });
});
