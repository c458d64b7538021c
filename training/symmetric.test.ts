import { eigen, scatter } from './symmetric';

test('eigenvalues and vectors of a matrix whose answer is known', () => {
  // A v = λ v for (2 1; 1 2): 3 along (1, 1), 1 along (1, −1).
  const { values, vectors } = eigen(Float64Array.of(2, 1, 1, 2), 2);
  expect(values[0]).toBeCloseTo(3, 12);
  expect(values[1]).toBeCloseTo(1, 12);
  expect(Math.abs(vectors[0][0])).toBeCloseTo(Math.SQRT1_2, 12);
  expect(vectors[0][0]).toBeCloseTo(vectors[0][1], 12);
});
test('what is taken apart can be put together again', () => {
  const size = 12,
    random = Float64Array.from({ length: size * size }, (_, k) => Math.sin(k * 12.9898) * 43758.5453).map((x) => x - Math.floor(x)),
    matrix = Float64Array.from({ length: size * size }, (_, k) => random[k] + random[(k % size) * size + Math.floor(k / size)]),
    { values, vectors } = eigen(matrix, size);
  for (let p = 0; p < size; p++)
    for (let q = 0; q < size; q++) {
      let sum = 0;
      values.forEach((value, k) => (sum += value * vectors[k][p] * vectors[k][q]));
      expect(sum).toBeCloseTo(matrix[p * size + q], 9);
    }
  expect([...values].sort((a, b) => b - a)).toEqual(values);
});
test('scatter is the mean of the outer products', () => {
  expect([
    ...scatter(
      [
        [1, 2],
        [3, -1],
      ],
      2,
    ),
  ]).toEqual([5, -0.5, -0.5, 2.5]);
});
