import { lowerOvers } from './overs';

test('a mix 6 dB over full scale comes down as a whole, to just below it', () => {
  const left = Float32Array.of(0.5, -2, 1),
    right = Float32Array.of(0.25, 0, -1);
  expect(lowerOvers([left, right])).toBeCloseTo(6.12, 2);
  expect(Math.abs(left[1])).toBeCloseTo(0.9886, 3);
  expect(left[0] / right[0]).toBeCloseTo(2, 6);
});
test.each([[Float32Array.of(1, -1, 0.2)], [new Float32Array(3)], [new Float32Array(0)]])(
  'at full scale or below nothing is done',
  (plane) => {
    const copy = plane.slice();
    expect(lowerOvers([plane])).toBe(0);
    expect(plane).toEqual(copy);
  },
);
