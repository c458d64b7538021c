import { rateHz, sine } from '../../../test/generators/signals';
import { passFilter, filterSignal } from '../../dsp/biquad';
import { realFft } from '../../dsp/real-fft';
import { createRandom } from '../../synth/random';
import { bandLimitHz } from './band-limit';

const random = createRandom(4),
  noise = Float32Array.from({ length: 1 << 17 }, () => (random() - 0.5) * 0.5);

/** Everything above a frequency taken away at once. */
function cut(signal: Float32Array, hz: number): Float32Array {
  const fft = realFft(signal.length);
  fft.time.set(signal);
  fft.forward();
  fft.spectrum.fill(0, 2 * Math.round((hz / rateHz) * signal.length));
  fft.inverse();
  return fft.time.map((value) => value / signal.length);
}

test.each([11000, 16000, 19000])('noise cut at %d Hz: the edge is found within 300 Hz', (hz) =>
  expect(Math.abs((bandLimitHz(cut(noise, hz), rateHz) ?? 0) - hz)).toBeLessThanOrEqual(300),
);

test.each([
  ['noise', noise],
  ['noise behind a gentle low pass', Float32Array.from(filterSignal(noise, passFilter('low', 4000, rateHz)))],
  ['a tone', sine(12000, 2)],
  ['a low tone', sine(80, 2)],
  ['silence', new Float32Array(rateHz)],
  ['nothing', new Float32Array(0)],
])('%s has no edge', (_, sound) => expect(bandLimitHz(sound, rateHz)).toBeNull());
