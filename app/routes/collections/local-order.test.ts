import { inLocalOrder } from './local-order';

const rows = [1, 2, 3].map((id) => ({ id })),
  ids = (order: readonly number[] | null) => inLocalOrder(rows, order).map(({ id }) => id);

test('rows stand as they were put; without that, as they came', () => {
  expect(ids([3, 1, 2])).toEqual([3, 1, 2]);
  expect(ids(null)).toEqual([1, 2, 3]);
});
test('what came since stands behind in its order, what is gone is not there', () => {
  expect(ids([3])).toEqual([3, 1, 2]);
  expect(ids([7, 3, 2])).toEqual([3, 2, 1]);
});
