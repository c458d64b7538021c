import { seamDb } from '../../test/generators/signals';
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
  expect(seamDb(plane)).toBeLessThanOrEqual(0.01);
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
  ['a lap of a few frames', Float32Array.of(1, 0, -1, 0)],
])('%s stays as it is', (_, plane) => {
  const copy = plane.slice();
  easeSeam(plane);
  expect(plane).toEqual(copy);
});
