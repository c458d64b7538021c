import { seamDb } from '../../test/generators/signals';
import { createRandom } from '../synth/random';
import { easeSeam } from './ease-seam';

const frames = 4096,
  /** A hit on the first frame that has died away before the end. */
  hit = () => Float32Array.from({ length: frames }, (_, i) => Math.cos(i * 0.08) * Math.exp(-i / 500)),
  sine = () => Float32Array.from({ length: frames }, (_, i) => Math.sin((2 * Math.PI * 40 * i) / frames));

test('a hit on the very first frame: the end rises into it, and nothing clicks', () => {
  const plane = hit(),
    before = seamDb(plane);
  easeSeam(plane);
  expect(before).toBeGreaterThan(10);
  // What is left is the hit's own beginning: it stands still before it and then moves.
  expect(seamDb(plane)).toBeLessThan(before - 15);
  expect(seamDb(plane)).toBeLessThan(3);
});

test('whatever stands at both ends, nothing is written beyond what was there and the first value', () => {
  const random = createRandom(7);
  for (let round = 0; round < 300; round++) {
    // A start that is steep and bent, as a kick's is: continued backwards it would fly off.
    const [level, slope, bend] = [random() * 2 - 1, (random() * 2 - 1) * 0.6, (random() * 2 - 1) * 0.3],
      plane = Float32Array.from(
        { length: 1024 },
        (_, i) => (level + slope * i + bend * i * i) * Math.exp(-i / 20) + 0.01 * (random() - 0.5),
      ),
      before = plane.slice();
    easeSeam(plane);
    const beyond = plane.map((value, i) => Math.max(Math.min(before[i], before[0]) - value, value - Math.max(before[i], before[0])));
    expect(Math.max(...beyond)).toBeLessThan(1e-7);
  }
});

test('a lone click gets no lead-in that is louder than itself', () => {
  const plane = new Float32Array(2048);
  plane[0] = 0.9;
  easeSeam(plane);
  expect(plane.reduce((sum, value) => sum + value * value, 0)).toBeLessThan(2 * 0.81);
});

test('no more than the last millisecond is touched, and the hit itself not at all', () => {
  const plane = hit();
  easeSeam(plane);
  expect(plane.subarray(0, frames - 48)).toEqual(hit().subarray(0, frames - 48));
});

test('a joint that is no sharper than the rest stays as it is, bit for bit', () => {
  const plane = sine();
  easeSeam(plane);
  expect(plane).toEqual(sine());
  const sharper = hit();
  // A sharper hit in the middle hides the joint.
  for (let i = 0; i < 400; i++) sharper[2000 + i] += 12 * Math.cos(i * 0.8) * Math.exp(-i / 60);
  const copy = sharper.slice();
  easeSeam(sharper);
  expect(sharper).toEqual(copy);
});

test.each([
  ['silence', new Float32Array(1000)],
  ['a cycle of a few frames', Float32Array.of(1, 0, -1, 0)],
])('%s stays as it is', (_, plane) => {
  const copy = plane.slice();
  easeSeam(plane);
  expect(plane).toEqual(copy);
});
