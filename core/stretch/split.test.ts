import { hits, rateHz, rms, sine } from '../../test/generators/signals';
import { heldTones } from './split';

const seconds = 2,
  tone = sine(441, seconds, 0.3),
  drum = hits([0.25, 0.75, 1.25, 1.75], seconds),
  both = tone.map((value, i) => value + drum[i]);
const less = (a: Float32Array, b: Float32Array) => a.map((value, i) => value - b[i]);
/** How much of a wanted sound is missing from what was found, dB. */
const lossDb = (wanted: Float32Array, found: Float32Array) => 20 * Math.log10(rms(less(wanted, found)) / rms(wanted));

test('a held tone is taken for a tone, a hit is not', () => {
  expect(lossDb(tone, heldTones([tone])[0])).toBeLessThan(-20);
  expect(rms(heldTones([drum])[0])).toBeLessThan(0.35 * rms(drum));
});

test('out of both together the tone is found again, and what is left is the hits', () => {
  const [held] = heldTones([both]);
  expect(lossDb(tone, held)).toBeLessThan(-12);
  expect(lossDb(drum, less(both, held))).toBeLessThan(-8);
});

test('a cycle is a circle: a tone over its end is held there too', () => {
  const [held] = heldTones([tone]),
    edge = 0.03 * rateHz;
  expect(rms(held, 0, edge)).toBeGreaterThan(0.9 * rms(tone, 0, edge));
  expect(rms(held, held.length - edge)).toBeGreaterThan(0.9 * rms(tone, tone.length - edge));
});

test('channels are split alike, so that the image stays; silence gives silence', () => {
  const [left, right] = heldTones([both, both.map((value) => value * 0.5)]);
  expect(
    rms(
      less(
        left,
        right.map((value) => value * 2),
      ),
    ),
  ).toBeLessThan(1e-4);
  expect(rms(heldTones([new Float32Array(20_000)])[0])).toBe(0);
});
