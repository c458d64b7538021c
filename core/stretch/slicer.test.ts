import { hits, rateHz } from '../../test/generators/signals';
import { cutSlices, foldRound, leadFrames, stretchSlices, sum } from './slicer';

describe('cutting a cycle at its hits', () => {
  test('slices reach from hit to hit, the last one round the end to the first', () => {
    const slices = cutSlices({ frames: [100, 400, 900], places: [200, 800, 1800] }, 1000, 2000);
    expect(slices).toEqual([
      { from: 100, place: 200, sourceLength: 300, targetLength: 600 },
      { from: 400, place: 800, sourceLength: 500, targetLength: 1000 },
      { from: 900, place: 1800, sourceLength: 200, targetLength: 400 },
    ]);
    expect(slices.reduce((total, { sourceLength }) => total + sourceLength, 0)).toBe(1000);
    expect(slices.reduce((total, { targetLength }) => total + targetLength, 0)).toBe(2000);
  });
  test('two hits that fall on one place leave one slice', () =>
    expect(cutSlices({ frames: [0, 10, 500], places: [0, 0, 250] }, 1000, 500).map(({ from }) => from)).toEqual([10, 500]));
});

describe('writing round the end of a cycle', () => {
  const plane = Float32Array.from([1, 2, 3, 4]);
  test('what passes the end comes in at the start', () => expect([...foldRound(plane, 3, 5)]).toEqual([3, 4, 0, 1, 2]));
  test('what begins before the start comes in at the end', () => expect([...foldRound(plane, -1, 5)]).toEqual([2, 3, 4, 0, 1]));
  test('what is longer than a cycle is added to itself', () => expect([...foldRound(plane, 0, 3)]).toEqual([5, 2, 3]));
});

test('channels are summed frame by frame, and the first stays as it is', () => {
  const left = Float32Array.from([1, 2]);
  expect([...sum([left, Float32Array.from([10, 20])])]).toEqual([11, 22]);
  expect([...left]).toEqual([1, 2]);
});

describe('a bar of hits', () => {
  const beat = rateHz / 2,
    cycle = hits([0, 0.5, 1, 1.5], 2),
    frames = [0, beat, 2 * beat, 3 * beat],
    /** By how much a stretch of what was made differs from one of the loop at most. */
    farthest = (made: Float32Array, at: number, from: number, length: number): number => {
      let most = 0;
      for (let i = 0; i < length; i++) most = Math.max(most, Math.abs(made[at + i] - cycle[from + i]));
      return most;
    };

  test.each([0.75, 1, 1.5])('at %d times its length each hit sounds at its place as it did', (ratio) => {
    const targetFrames = 2 * rateHz * ratio,
      places = frames.map((frame) => Math.round(frame * ratio)),
      [made] = stretchSlices([cycle], { frames, places }, { sourceFrames: cycle.length, targetFrames });
    expect(made).toHaveLength(targetFrames);
    for (const [k, place] of places.entries()) expect(farthest(made, place, frames[k], 0.02 * rateHz)).toBeLessThan(5e-6);
  });

  test('a hit can be moved by itself, and its neighbours stay', () => {
    const places = [0, beat + 300, 2 * beat, 3 * beat],
      [made] = stretchSlices([cycle], { frames, places }, { sourceFrames: cycle.length, targetFrames: cycle.length });
    expect(farthest(made, beat + 300, beat, 400)).toBeLessThan(5e-6);
    expect(farthest(made, 2 * beat, 2 * beat, 400)).toBeLessThan(5e-6);
    // In front of the late hit lies what was in front of it, silence; its lead-in at the most is faded.
    for (let i = beat + 100; i < beat + 300 - leadFrames; i++) expect(Math.abs(made[i])).toBeLessThan(1e-6);
  });

  test('sides are cut at the same places', () => {
    const [left, right] = stretchSlices(
      [cycle, cycle.map((value) => value / 2)],
      { frames, places: frames.map((frame) => Math.round(frame * 1.25)) },
      { sourceFrames: cycle.length, targetFrames: cycle.length * 1.25 },
    );
    expect(right.every((value, i) => Math.abs(2 * value - left[i]) < 1e-6)).toBe(true);
  });
});
