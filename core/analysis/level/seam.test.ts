import { rateHz } from '../../../test/generators/signals';
import { seamDb } from './seam';

/** A tone of `turns` whole or broken turns in a second. */
const tone = (turns: number): Float32Array =>
  Float32Array.from({ length: rateHz }, (_, i) => 0.5 * Math.sin((2 * Math.PI * turns * i) / rateHz));

test('a loop of whole turns joins; one that is cut within a turn clicks', () => {
  expect(seamDb([tone(110)], 0, rateHz)).toBeLessThan(0.5);
  expect(seamDb([tone(110.25)], 0, rateHz)).toBeGreaterThan(20);
});
test('the loop may lie inside a longer file', () => {
  const file = new Float32Array(3 * rateHz);
  file.set(tone(220), rateHz);
  file.set(tone(220).subarray(0, 9000), 2 * rateHz);
  expect(seamDb([file], rateHz, 2 * rateHz)).toBeLessThan(0.5);
  expect(seamDb([file], rateHz, 2 * rateHz + 53)).toBeGreaterThan(20);
});
test('a file that ends too early clicks, unless it has faded', () => {
  expect(seamDb([tone(110.25)], 0, rateHz + 40)).toBeGreaterThan(10);
  const faded = tone(110).map((value, i) => value * Math.min(1, (rateHz - i) / 20000) * Math.min(1, i / 400));
  expect(seamDb([faded], 0, rateHz + 40)).toBeLessThan(0.5);
});
test('a hit on the first beat of a loop full of hits is no click', () => {
  const beat = new Float32Array(rateHz);
  for (let from = 0; from < rateHz; from += rateHz / 4)
    for (let i = 0; i < 3000; i++) beat[from + i] = 0.8 * Math.exp(-i / 400) * Math.cos(i / 3);
  expect(seamDb([beat], 0, rateHz)).toBeLessThan(0.5);
});
test('the worse of two sides counts', () => {
  expect(seamDb([tone(110), tone(110.25)], 0, rateHz)).toBe(seamDb([tone(110.25)], 0, rateHz));
});
test('silence and snippets have no seam', () => {
  expect(seamDb([new Float32Array(rateHz)], 0, rateHz)).toBeNull();
  expect(seamDb([tone(110)], 0, 100)).toBeNull();
});
