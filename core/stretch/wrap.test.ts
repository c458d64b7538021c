import { unroll, wrapFrame } from './wrap';

test.each([
  [0, 10, 0],
  [10, 10, 0],
  [-1, 10, 9],
  [-21, 10, 9],
  [25, 10, 5],
])('frame %d of a cycle of %d is frame %d', (at, length, inside) => expect(wrapFrame(at, length)).toBe(inside));

test.each([
  [0, 0],
  [2, 3],
  [5, 5],
  [13, 27],
])('%d frames in front and %d behind are the cycle going round', (before, after) => {
  const cycle = Float32Array.from({ length: 5 }, (_, k) => k + 1),
    out = unroll(cycle, before, after);
  expect(out).toHaveLength(before + 5 + after);
  out.forEach((value, k) => expect(value).toBe(cycle[wrapFrame(k - before, 5)]));
});
