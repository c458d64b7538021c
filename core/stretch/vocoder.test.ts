import { rateHz, rms, sine, zeroCrossingHz } from '../../test/generators/signals';
import { bentMap, straightMap } from './time-map';
import { stretchTonal } from './vocoder';

const cycle = sine(440, 1, 0.4);
const stretch = (planes: readonly Float32Array[], ratio: number) =>
  stretchTonal(planes, straightMap(planes[0].length, Math.round(planes[0].length * ratio)));

test.each([0.5, 0.9, 1.3, 2])('× %f: as many frames as asked, the same pitch and level', (ratio) => {
  const [made] = stretch([cycle], ratio),
    middle = made.subarray(4000, made.length - 4000);
  expect(made).toHaveLength(Math.round(cycle.length * ratio));
  expect(Math.abs(1200 * Math.log2(zeroCrossingHz(middle) / 440))).toBeLessThan(2);
  expect(20 * Math.log10(rms(middle) / rms(cycle))).toBeCloseTo(0, 0);
});

test('what is on one side stays there: the channels are moved together', () => {
  const [left, right] = stretch([cycle, cycle.map((value) => value * -0.25)], 1.4),
    apart = left.map((value, i) => value + 4 * right[i]);
  expect(rms(apart)).toBeLessThan(1e-3 * rms(left));
});

test('the end goes on into the start', () => {
  const [made] = stretch([cycle], 1.27),
    steps = Float32Array.from(made, (value, i) => Math.abs(value - made[(i + made.length - 1) % made.length]));
  let largest = 0;
  for (let i = 1; i < steps.length; i++) largest = Math.max(largest, steps[i]);
  expect(steps[0]).toBeLessThanOrEqual(1.2 * largest);
});

test('a tone of no whole periods goes round without a dip: it is led back to the phase it began with', () => {
  const [made] = stretch([sine(440, 2, 0.4)], 2 ** (5 / 12)),
    levels = Array.from({ length: Math.floor(made.length / 2048) }, (_, k) => rms(made, k * 2048, (k + 1) * 2048));
  expect(Math.min(...levels) / Math.max(...levels)).toBeGreaterThan(0.97);
});

test('a note struck on the first frame stays struck', () => {
  const note = Float32Array.from({ length: rateHz }, (_, i) => 0.5 * Math.sin(i * 0.0712) * Math.exp(-i / 9000)),
    [made] = stretch([note], 1.3);
  // Half of its level within the first 5 ms.
  expect(rms(made, 0, 220)).toBeGreaterThan(0.5 * rms(note, 0, 2205));
});

test('a bent time is followed: what was played late comes where it belongs', () => {
  // A swell in the second quarter, played a tenth of a second late.
  const at = (middle: number) => (i: number) => Math.exp(-(((i / rateHz - middle) / 0.05) ** 2)),
    swell = at(0.6),
    played = sine(880, 2, 0.4).map((value, i) => value * swell(i)),
    marks = [0, 0.6, 1, 1.5].map((seconds) => Math.round(seconds * rateHz)),
    [made] = stretchTonal([played], bentMap(played.length, played.length, marks));
  let centre = 0,
    weight = 0;
  made.forEach((value, i) => {
    centre += (value * value * i) / rateHz;
    weight += value * value;
  });
  expect(centre / weight).toBeGreaterThan(0.46);
  expect(centre / weight).toBeLessThan(0.54);
});

test('silence gives silence, and very short cycles give what they are asked for', () => {
  expect(rms(stretch([new Float32Array(9000)], 1.5)[0])).toBe(0);
  const [short] = stretch([cycle.subarray(0, 700)], 1.7);
  expect(short).toHaveLength(1190);
  expect(short.every(Number.isFinite)).toBe(true);
});
