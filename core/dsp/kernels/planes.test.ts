import { createRandom } from '../../synth/random';
import { betweenFrames } from '../true-peak';
import { highestBetween, meanOf, peakOf, survey, weigh, weighingStateSize } from './planes';

const random = createRandom(5),
  noise = (count: number): Float32Array => Float32Array.from({ length: count }, () => random() * 2 - 1),
  sum = (values: ArrayLike<number>, of: (value: number, k: number) => number): number => {
    let all = 0;
    for (let k = 0; k < values.length; k++) all += of(values[k], k);
    return all;
  };

test.each([1, 3, 4, 882, 16384])('a survey of %i frames of two channels adds up what is there', (count) => {
  const left = noise(count + 10),
    right = noise(count + 10),
    [l, r] = [left, right].map((plane) => plane.subarray(7, 7 + count)),
    found = survey(left, right, 7, 7 + count);
  expect(found.sums[0]).toBeCloseTo(
    sum(l, (value) => value),
    8,
  );
  expect(found.sums[1]).toBeCloseTo(
    sum(r, (value) => value),
    8,
  );
  expect(found.energies[0]).toBeCloseTo(
    sum(l, (value) => value * value),
    8,
  );
  expect(found.energies[1]).toBeCloseTo(
    sum(r, (value) => value * value),
    8,
  );
  expect(found.shared).toBeCloseTo(
    sum(l, (value, k) => value * r[k]),
    8,
  );
  expect(found.peaks).toEqual([Math.max(...l.map(Math.abs)), Math.max(...r.map(Math.abs))]);
});

test.each([1, 4, 7, 512])('between %i frames the curve is as high as the taps make it', (count) => {
  const plane = noise(count + 11);
  let highest = 0;
  for (let i = 5; i < 5 + count; i++)
    for (const taps of betweenFrames) highest = Math.max(highest, Math.abs(sum(taps, (tap, k) => tap * plane[i - 5 + k])));
  expect(highestBetween(plane, 5, 5 + count)).toBeCloseTo(highest, 5);
});
test('two channels that are the same have no side at all', () => {
  const plane = noise(4410),
    { energies, shared } = survey(plane, plane, 0, 4410);
  expect(energies[0] + energies[1] - 2 * shared).toBe(0);
});

test('what an earlier, longer piece left behind is not counted', () => {
  survey(noise(4000), noise(4000), 0, 4000);
  const quiet = Float32Array.of(0.25, -0.5, 0.125);
  expect(survey(quiet, quiet, 0, 3)).toEqual({
    sums: [-0.125, -0.125],
    energies: [0.328125, 0.328125],
    shared: 0.328125,
    peaks: [0.5, 0.5],
  });
});

test('the peak of a long plane is found wherever it is, below zero too; what is no number is passed over', () => {
  for (const at of [0, 16383, 16384, 39999]) {
    const plane = noise(40000).map((value) => value * 0.5);
    plane[at] = -0.875;
    plane[(at + 1) % 40000] = Number.NaN;
    expect(peakOf(plane)).toBe(0.875);
  }
  expect(peakOf(new Float32Array(0))).toBe(0);
});

test('the mean of two channels, to the last bit, over more than one piece', () => {
  const [left, right] = [noise(33333), noise(33333)];
  expect(meanOf(left, right)).toEqual(left.map((value, k) => (value + right[k]) * 0.5));
});

test.each([
  ['in one piece', [40_000]],
  ['in pieces', [1, 4410, 17_001, 18_588]],
])('two channels through two filters, %s, are what the difference equations say (Oppenheim & Schafer)', (_, pieces) => {
  const planes = [noise(40_000), noise(40_000)],
    filter = Float64Array.of(1.5, -2.6, 1.2, -1.69, 0.73, -1.99, 0.9901),
    [b0, b1, b2, a1, a2, c1, c2] = filter,
    state = new Float64Array(weighingStateSize);
  let from = 0;
  for (const frames of pieces) weigh(planes[0], planes[1], from, (from += frames), filter, state);
  planes.forEach((x, side) => {
    const y = new Float64Array(x.length),
      z = new Float64Array(x.length),
      at = (list: ArrayLike<number>, k: number) => list[k] ?? 0;
    for (let i = 0; i < x.length; i++) {
      y[i] = b0 * x[i] + b1 * at(x, i - 1) + b2 * at(x, i - 2) - a1 * at(y, i - 1) - a2 * at(y, i - 2);
      z[i] = y[i] - 2 * at(y, i - 1) + at(y, i - 2) - c1 * at(z, i - 1) - c2 * at(z, i - 2);
    }
    const energy = sum(z, (value) => value * value);
    expect(state[12 + side] / energy).toBeCloseTo(1, 9);
    expect(state[8 + side]).toBeCloseTo(z[x.length - 1], 6);
  });
});
test('a lone channel beside itself has the same on both sides', () => {
  const plane = noise(500),
    state = new Float64Array(weighingStateSize);
  weigh(plane, plane, 0, 500, Float64Array.of(1, 0, 0, 0, 0, -1.9, 0.91), state);
  expect(state[12]).toBeGreaterThan(0);
  expect(state[12]).toBe(state[13]);
});
