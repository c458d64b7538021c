import { plainestRun, plainnessOf } from './plain-bars';

const [a, b, c, silent] = [
  [1, 0, 1, 0],
  [1, 0, 1, 0.1],
  [0, 1, 0, 1],
  [0, 0, 0, 0],
];

test('what the others are like is plain, what stands apart is not', () => {
  const plain = plainnessOf([a, b, c, a]);
  expect(plain[2]).toBeLessThan(0.1);
  expect(Math.min(plain[0], plain[1], plain[3])).toBeGreaterThan(0.6);
});

test('silence is like silence and nothing else', () => expect(plainnessOf([silent, silent, a])).toEqual([0.5, 0.5, 0]));

test.each([
  ['a fill in the last but one stays single', [a, b, a, b, a, b, c, a], 2, [3, 4]],
  ['a break in the middle stays single', [a, b, a, silent, a, b, a, b], 2, [5]],
  ['of all alike it is the latest', [a, a, a, a, a, a], 2, [3]],
] as const)('%s', (_, bars, count, allowed) => {
  const from = plainestRun(bars, count);
  expect(allowed).toContain(from);
});

test('neither the first bar nor the last comes again', () => {
  for (let count = 1; count <= 4; count++) {
    const from = plainestRun([a, c, b, c, silent, a], count);
    expect(from).toBeGreaterThanOrEqual(1);
    expect(from + count).toBeLessThanOrEqual(5);
  }
});
