import { barLines } from './bar-lines';

const barsOf = (lines: ReturnType<typeof barLines>) => lines.filter(({ bar }) => bar).map(({ beat }) => beat);

test('two bars of four: nine lines, three of them of bars', () => {
  const lines = barLines(8, 4);
  expect(lines.map(({ beat }) => beat)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8]);
  expect(barsOf(lines)).toEqual([0, 4, 8]);
});
test('bars of seven eighths begin between the beats of the first', () => {
  const lines = barLines(7, 3.5);
  expect(lines.map(({ beat }) => beat)).toEqual([0, 1, 2, 3, 3.5, 4.5, 5.5, 6.5, 7]);
  expect(barsOf(lines)).toEqual([0, 3.5, 7]);
});
test('a bar that is not full ends with the loop, and a long loop is drawn no denser than can be seen', () => {
  expect(barsOf(barLines(6, 4))).toEqual([0, 4, 6]);
  expect(barLines(2000, 4)).toHaveLength(257);
});
