import { withFaintHits } from './faint-hits';

const rateHz = 44100,
  ms = rateHz / 1000,
  // One bar of 4/4 at 120: a sixteenth is 125 ms.
  cycle = 2 * rateHz,
  sixteenth = cycle / 16,
  join = (clear: number[], faint: number[], beats = 4) => withFaintHits(clear.map(Math.round), faint.map(Math.round), cycle, beats, rateHz);

test('a faint hit on a sixteenth is a hit, early or late by up to 6 ms', () => {
  const faint = [3 * sixteenth, 5 * sixteenth + 5.9 * ms, 7 * sixteenth - 5.9 * ms].map(Math.round);
  expect(join([0, 4 * sixteenth], faint)).toEqual([0, faint[0], 4 * sixteenth, faint[1], faint[2]]);
});
test('beside the lines it is none', () => {
  expect(join([0], [3 * sixteenth + 7 * ms, 3.5 * sixteenth, 4 * sixteenth - 7 * ms])).toEqual([0]);
});
test('where the beats are not known, and where nothing is faint, clear hits come back as they are', () => {
  const clear = [0, 1000];
  expect(withFaintHits(clear, [sixteenth], cycle, 0, rateHz)).toBe(clear);
  expect(withFaintHits(clear, [], cycle, 4, rateHz)).toBe(clear);
  expect(withFaintHits(clear, [1234], cycle, 4, rateHz)).toBe(clear);
});
test('the line at the end of the cycle is the one at its start, and a clear hit there has the faint one for its own', () => {
  const last = Math.round(cycle - 3 * ms);
  expect(join([4 * sixteenth], [last])).toEqual([4 * sixteenth, last]);
  expect(join([0, 4 * sixteenth], [last])).toEqual([0, 4 * sixteenth]);
});
