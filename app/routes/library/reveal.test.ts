import { revealedTop } from './reveal';

const view = { rowHeight: 40, top: 400, height: 210 };

test('a row that is whole in view moves nothing', () => {
  for (const index of [10, 12, 14]) expect(revealedTop(index, view)).toBe(400);
});

test('a row above comes to the upper edge', () => {
  expect(revealedTop(9, view)).toBe(360);
  expect(revealedTop(0, view)).toBe(0);
});

test('a row below, or cut off by the lower edge, comes to the lower edge', () => {
  expect(revealedTop(15, view)).toBe(430);
  expect(revealedTop(100, view)).toBe(101 * 40 - 210);
});

test('in a view lower than a row, and before it is measured, the list is never scrolled above its top', () => {
  expect(revealedTop(0, { ...view, top: 0, height: 900 })).toBe(0);
  expect(revealedTop(3, { ...view, top: 0, height: 900 })).toBe(0);
});
