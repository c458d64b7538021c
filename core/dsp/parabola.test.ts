import { topOffset } from './parabola';

test.each([-0.5, -0.3, 0, 0.17, 0.5])('the top of a parabola that lies %f from the middle is found there', (place) => {
  const value = (x: number) => 3 - 2 * (x - place) ** 2;
  expect(topOffset(value(-1), value(0), value(1))).toBeCloseTo(place, 9);
});
test('what is no maximum has none, and no top lies farther than half a step away', () => {
  expect(topOffset(1, 1, 1)).toBe(0);
  expect(topOffset(2, 1, 2)).toBe(0);
  expect(topOffset(0, 1.9, 2)).toBe(0.5);
  expect(topOffset(2, 1.9, 0)).toBe(-0.5);
});
