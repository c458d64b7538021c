import { afterScroll, mostScrollPx, scrollPx, toListTop } from './tall-scroll';

const sizes = { listPx: 42_000_000, viewPx: 420 },
  most = scrollPx(sizes.listPx) - sizes.viewPx;

test('a short list is where its scroller is', () => {
  const short = { listPx: 4200, viewPx: 420 };
  expect(afterScroll({ listTop: 0, scrollTop: 0 }, 99, short)).toEqual({ listTop: 99, scrollTop: 99 });
  expect(toListTop(9999, short)).toEqual({ listTop: 3780, scrollTop: 3780 });
});
test('small steps move by as many pixels, wherever one is', () => {
  const place = toListTop(21_000_000, sizes);
  expect(place.listTop).toBe(21_000_000);
  expect(place.scrollTop).toBeLessThan(mostScrollPx);
  expect(afterScroll(place, place.scrollTop + 42, sizes).listTop).toBe(21_000_042);
});
test('a drag of the bar to its end shows the last row, and to its start the first', () => {
  expect(afterScroll({ listTop: 0, scrollTop: 0 }, most, sizes).listTop).toBe(sizes.listPx - sizes.viewPx);
  expect(afterScroll({ listTop: 21_000_000, scrollTop: most / 2 }, 0, sizes).listTop).toBe(0);
  expect(afterScroll({ listTop: 0, scrollTop: 0 }, most / 2, sizes).listTop).toBeCloseTo((sizes.listPx - sizes.viewPx) / 2, 0);
});
test('the last row is reached by going to it', () => {
  const place = toListTop(Infinity, sizes);
  expect(place).toEqual({ listTop: sizes.listPx - sizes.viewPx, scrollTop: most });
});
