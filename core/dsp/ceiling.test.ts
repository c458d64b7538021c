import { createRandom } from '../synth/random';
import { Ceiling, ceilingLookaheadFrames, holdCycle } from './ceiling';

const late = ceilingLookaheadFrames - 1,
  noise = (frames: number, size: number, seed = 1) => {
    const random = createRandom(seed);
    return Float32Array.from({ length: frames }, () => (random() * 2 - 1) * size);
  },
  largest = (plane: Float32Array) => plane.reduce((peak, value) => Math.max(peak, Math.abs(value)), 0),
  through = (planes: Float32Array[], ceilingRatio = 1) => {
    const ceiling = new Ceiling(planes.length, ceilingRatio),
      out = planes.map((plane) => new Float32Array(plane.length));
    let lowest = 1;
    // In the blocks of an audio thread.
    for (let at = 0; at < planes[0].length; at += 128)
      lowest = Math.min(
        lowest,
        ceiling.next(
          planes.map((plane) => plane.subarray(at, at + 128)),
          out.map((plane) => plane.subarray(at, at + 128)),
        ),
      );
    return { out, lowest };
  };

test('what stays below comes out bit for bit, the lookahead later', () => {
  const plane = noise(4096, 0.99),
    { out, lowest } = through([plane]);
  expect(lowest).toBe(1);
  expect(out[0].subarray(late)).toEqual(plane.subarray(0, 4096 - late));
});

test.each([1.01, 2, 12, 132])('noise up to %d times full scale never passes it', (size) => {
  const { out, lowest } = through([noise(20_000, size), noise(20_000, size / 3, 2)]);
  expect(Math.max(...out.map(largest))).toBeLessThanOrEqual(1);
  expect(lowest).toBeLessThan(1.02 / size);
});

test('one sample of 132 is brought to full scale, and its neighbours with it, without a step', () => {
  const plane = new Float32Array(8192).fill(0.1);
  plane[4000] = 132;
  const { out } = through([plane]);
  expect(largest(out[0])).toBeLessThanOrEqual(1);
  // Beside the peak itself nothing jumps: the gain goes down over the lookahead.
  for (let i = late + 1; i < 4000 + late; i++) expect(Math.abs(out[0][i] - out[0][i - 1])).toBeLessThan(0.003);
});

test('both sides get the same gain', () => {
  const left = noise(4096, 3),
    { out } = through([left, left.map((value) => value / 2)]);
  for (let i = 0; i < 4096; i += 7) expect(out[1][i]).toBeCloseTo(out[0][i] / 2, 6);
});

test('after a while nothing is held down any more, exactly', () => {
  const plane = noise(88200, 0.5);
  plane[100] = 3;
  const { out } = through([plane]);
  expect(out[0].subarray(60_000 + late)).toEqual(plane.subarray(60_000, 88200 - late));
});

test('what is no number is silence, and does not stay', () => {
  const plane = noise(1000, 0.5);
  plane[10] = NaN;
  plane[11] = Infinity;
  const { out } = through([plane]);
  expect(out[0].every(Number.isFinite)).toBe(true);
  expect(out[0][late + 20]).toBe(plane[20]);
});

test('a cycle is held round its end, at its place', () => {
  const cycle = noise(10_000, 0.2);
  cycle[3] = 2;
  const before = cycle.slice();
  holdCycle([cycle], 1);
  expect(largest(cycle)).toBeLessThanOrEqual(1);
  expect(cycle[3]).toBeCloseTo(1, 2);
  // The gain is on its way down at the end, before the peak of the start.
  expect(Math.abs(cycle[9990])).toBeLessThan(Math.abs(before[9990]));
  expect(cycle[5000] / before[5000]).toBeGreaterThan(0.9);
});

test('a cycle below stays as it is; silence too', () => {
  const cycle = noise(2000, 0.9),
    copy = cycle.slice();
  holdCycle([cycle], 0.9);
  expect(cycle).toEqual(copy);
  const silence = new Float32Array(300);
  holdCycle([silence], 1);
  expect(silence).toEqual(new Float32Array(300));
});
