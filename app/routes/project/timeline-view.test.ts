import { drawnAround, sizeOf } from './timeline-view';

test('what is seen is drawn, and some around it, in steps', () => {
  expect(drawnAround(0, 0, 1000, 500)).toEqual({ fromX: 0, toX: 1280, fromY: 0, toY: 660 });
  // A small scroll draws nothing anew.
  expect(drawnAround(2100, 300, 1000, 500)).toEqual(drawnAround(2120, 310, 1000, 500));
});

test.each([0, 511, 512, 5000, 123_456])('scrolled to %d, nothing that is seen is left out', (left) => {
  const drawn = drawnAround(left, left, 1068, 431);
  expect(drawn.fromX).toBeLessThanOrEqual(left);
  expect(drawn.toX).toBeGreaterThanOrEqual(left + 1068);
  expect(drawn.fromY).toBeLessThanOrEqual(left);
  expect(drawn.toY).toBeGreaterThanOrEqual(left + 431);
  expect(drawn.toX - drawn.fromX).toBeLessThan(1068 + 4 * 256);
});

test('tracks are large unless one made them small', () => {
  expect([sizeOf({ small: ['a'] }, 'a'), sizeOf({ small: ['a'] }, 'b')]).toEqual(['small', 'large']);
});
