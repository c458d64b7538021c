import { fitted, moved, nearest, zoomed } from './view';

const all = { fromFrame: 0, toFrame: 10_000 };

test('zoomed, what is under the pointer stays there', () => {
  const near = zoomed(all, 4, 0.25, 10_000);
  expect(near).toEqual({ fromFrame: 1875, toFrame: 4375 });
  expect(near.fromFrame + 0.25 * (near.toFrame - near.fromFrame)).toBe(2500);
});
test('never beyond the sound, nor nearer than its samples', () => {
  expect(zoomed(all, 0.1, 0.5, 10_000)).toEqual(all);
  expect(zoomed(all, 1e9, 0.5, 10_000).toFrame - zoomed(all, 1e9, 0.5, 10_000).fromFrame).toBe(64);
  expect(moved({ fromFrame: 9000, toFrame: 10_000 }, 1, 10_000)).toEqual({ fromFrame: 9000, toFrame: 10_000 });
  expect(fitted({ fromFrame: -50, toFrame: 20 }, 10_000).fromFrame).toBe(0);
  expect(fitted(all, 30)).toEqual({ fromFrame: 0, toFrame: 30 });
});
test('a handle goes to the nearest line', () => {
  expect(nearest(44, [0, 40, 100])).toBe(40);
  expect(nearest(44, [])).toBe(44);
});
