import { rateHz, rms, sine, zeroCrossingHz } from '../../test/generators/signals';
import { createRandom } from '../synth/random';
import { filterSignal, passFilter } from './biquad';
import { autocorrelation } from './autocorrelation';
import { realFft } from './real-fft';
import { resampleCyclic, resampleCycle } from './resample';
import { spectrogram, toMono } from './spectrogram';

test('the compiled transform is the discrete Fourier transform by its definition, and comes back', () => {
  const size = 96,
    random = createRandom(8),
    signal = Float64Array.from({ length: size }, () => random() - 0.5),
    fft = realFft(size);
  const bin = (k: number) =>
    signal.reduce(
      ([re, im], value, i) => [re + value * Math.cos((2 * Math.PI * k * i) / size), im - value * Math.sin((2 * Math.PI * k * i) / size)],
      [0, 0],
    );
  fft.time.set(signal);
  fft.forward();
  expect(fft.spectrum[0]).toBeCloseTo(bin(0)[0], 4);
  expect(fft.spectrum[1]).toBeCloseTo(bin(size / 2)[0], 4);
  for (let k = 1; k < size / 2; k++) {
    expect(fft.spectrum[2 * k]).toBeCloseTo(bin(k)[0], 4);
    expect(fft.spectrum[2 * k + 1]).toBeCloseTo(bin(k)[1], 4);
  }
  fft.inverse();
  signal.forEach((value, i) => expect(fft.time[i] / size).toBeCloseTo(value, 5));
  expect(() => realFft(34)).toThrow(RangeError);
});

test('autocorrelation is what its definition says', () => {
  const random = createRandom(2),
    values = Float32Array.from({ length: 100 }, () => random() - 0.5),
    found = autocorrelation(values, 30);
  for (const lag of [0, 1, 7, 29]) {
    let sum = 0;
    for (let i = 0; i + lag < values.length; i++) sum += values[i] * values[i + lag];
    expect(found[lag]).toBeCloseTo(sum, 4);
  }
});

test('a full-scale sine peaks at 1 in the spectrogram', () => {
  const { magnitudes, bins, frameCount } = spectrogram(sine(20 * (rateHz / 1024), 0.5, 1), 1024, 512);
  expect(magnitudes[Math.floor(frameCount / 2) * bins + 20]).toBeCloseTo(1, 2);
  expect(spectrogram(new Float32Array(0), 1024, 512).frameCount).toBe(1);
  expect(spectrogram(sine(100, 0.2), 1024, 512, 40).bins).toBe(40);
  expect(Math.max(...spectrogram(sine(1000, 0.001), 1024, 512).magnitudes)).toBeGreaterThan(0);
});

describe('cyclic resampling', () => {
  test.each([
    [48000, 44100],
    [44100, 48000],
    [44100, 22050],
    [44100, 88200],
  ])('%d frames to %d: the tone goes round, 90 dB clean', (from, to) => {
    const cycles = 1000,
      source = Float32Array.from({ length: from }, (_, i) => 0.5 * Math.sin((2 * Math.PI * cycles * i) / from)),
      out = resampleCyclic(source, to);
    expect(out).toHaveLength(to);
    const wanted = Float32Array.from({ length: to }, (_, i) => 0.5 * Math.sin((2 * Math.PI * cycles * i) / to));
    expect(20 * Math.log10(rms(out.map((sample, i) => sample - wanted[i])) / rms(wanted))).toBeLessThan(-80);
  });
  test('two channels together are what each is alone', () => {
    const planes = [sine(440, 0.2), sine(550, 0.2), sine(660, 0.2)],
      together = resampleCycle(planes, 7001);
    planes.forEach((plane, channel) => expect(together[channel]).toEqual(resampleCyclic(plane, 7001)));
  });
  test('what would fold back is taken away', () =>
    expect(
      20 *
        Math.log10(
          rms(
            resampleCyclic(
              Float32Array.from({ length: 44100 }, (_, i) => Math.sin((2 * Math.PI * 15000 * i) / 44100)),
              22050,
            ),
          ) / 0.7,
        ),
    ).toBeLessThan(-60));
  test('the same length is a copy; nothing stays nothing; a length of 0 is refused', () => {
    const source = sine(100, 0.1);
    expect(resampleCyclic(source, source.length)).toEqual(source);
    expect(resampleCyclic(new Float32Array(0), 4)).toEqual(new Float32Array(4));
    expect(() => resampleCyclic(source, 0)).toThrow(RangeError);
  });
});

test('filters: a low pass takes highs, a high pass lows', () => {
  const low = sine(100, 0.5),
    high = sine(8000, 0.5);
  expect(rms(filterSignal(high, passFilter('low', 500, rateHz)))).toBeLessThan(rms(high) * 0.01);
  expect(rms(filterSignal(low, passFilter('high', 2000, rateHz)))).toBeLessThan(rms(low) * 0.01);
});

test('mono is the mean of the sides', () =>
  expect(toMono([Float32Array.from([1, 0]), Float32Array.from([0, 0.5])])).toEqual(Float32Array.from([0.5, 0.25])));
test('zero crossings measure a tone', () => expect(zeroCrossingHz(sine(441, 1))).toBeCloseTo(441, 3));
