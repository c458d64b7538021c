import { rateHz, rms, sine } from '../../test/generators/signals';
import { autocorrelation } from './autocorrelation';
import { decimate } from './decimate';

test.each([110, 1000, 3000])('a tone of %d Hz keeps its level within 0.1 dB', (hz) => {
  const out = decimate(sine(hz, 1), 4);
  expect(out).toHaveLength(Math.ceil(rateHz / 4));
  expect(Math.abs(20 * Math.log10(rms(out, 200, out.length - 200) / (0.5 / Math.SQRT2)))).toBeLessThan(0.1);
});
test.each([7000, 10025, 15000])('what would fold back (%d Hz) is at least 50 dB down', (hz) => {
  const out = decimate(sine(hz, 1), 4);
  expect(20 * Math.log10(rms(out, 200, out.length - 200) / (0.5 / Math.SQRT2))).toBeLessThan(-50);
});
test('nothing gives one silent sample', () => expect(decimate(new Float32Array(0), 4)[0]).toBeCloseTo(0));

test('autocorrelation by the transform is the sum of products', () => {
  const values = Array.from({ length: 50 }, (_, k) => Math.sin(k * 1.3) + (k % 7) / 7);
  const found = autocorrelation(values, 20);
  for (let lag = 0; lag < 20; lag++) {
    let sum = 0;
    for (let k = 0; k + lag < 50; k++) sum += values[k] * values[k + lag];
    expect(found[lag]).toBeCloseTo(sum, 4);
  }
});
