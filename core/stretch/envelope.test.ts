import { EnvelopeFinder } from './envelope';

const size = 2048,
  rateHz = 44100,
  bins = size / 2 + 1;

/** A spectrum `[dc, nyquist, re 1, im 1 …]` of partials of 200 Hz under a hill around `centreHz`. */
function voiceLike(centreHz: number, gain = 1): Float32Array {
  const spectrum = new Float32Array(size);
  for (let partial = 1; partial * 200 < rateHz / 2; partial++) {
    const hz = partial * 200,
      bin = Math.round((hz * size) / rateHz),
      level = gain * (0.01 + Math.exp(-(((hz - centreHz) / 400) ** 2)));
    for (let k = -1; k <= 1; k++) if (bin + k > 0 && bin + k < size / 2) spectrum[2 * (bin + k)] += level * (k === 0 ? 1 : 0.5);
  }
  return spectrum;
}
const binOf = (hz: number) => Math.round((hz * size) / rateHz);
const peakHz = (envelope: Float32Array) => {
  let best = binOf(400);
  for (let k = best; k < binOf(4000); k++) if (envelope[k] > envelope[best]) best = k;
  return (best * rateHz) / size;
};

test.each([800, 1000, 1800])('the hill at %d Hz is found over partials that lie 200 Hz apart', (centreHz) => {
  const envelope = new EnvelopeFinder(size, rateHz).find([voiceLike(centreHz)]);
  expect(envelope).toHaveLength(bins);
  expect(Math.abs(peakHz(envelope) - centreHz)).toBeLessThan(130);
});

test('it follows the tops by an even distance and does not fall between them', () => {
  const envelope = new EnvelopeFinder(size, rateHz).find([voiceLike(1000)]),
    below = [600, 800, 1000, 1200, 1400].map((hz) => Math.log(0.01 + Math.exp(-(((hz - 1000) / 400) ** 2))) - envelope[binOf(hz)]);
  expect(Math.max(...below) - Math.min(...below)).toBeLessThan(0.6);
  // Half-way to the next partial there is nothing in the spectrum.
  for (const hz of [800, 1000]) expect(envelope[binOf(hz + 100)]).toBeGreaterThan(envelope[binOf(hz)] - 1.2);
});

test('twice as loud lies log 2 higher everywhere', () => {
  const one = new EnvelopeFinder(size, rateHz).find([voiceLike(900)]).slice(),
    two = new EnvelopeFinder(size, rateHz).find([voiceLike(900, 2)]);
  for (let k = 5; k < binOf(5000); k += 9) expect(two[k] - one[k]).toBeCloseTo(Math.log(2), 1);
});

test('two channels are seen together; silence is flat', () => {
  const finder = new EnvelopeFinder(size, rateHz),
    both = finder.find([voiceLike(700), voiceLike(2200)]).slice();
  expect(both[binOf(700)]).toBeGreaterThan(both[binOf(1400)]);
  expect(both[binOf(2200)]).toBeGreaterThan(both[binOf(1400)]);
  const silent = finder.find([new Float32Array(size)]);
  expect(Math.max(...silent) - Math.min(...silent)).toBeLessThan(0.2);
  expect(silent.every(Number.isFinite)).toBe(true);
});
