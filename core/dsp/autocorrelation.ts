import { PairFft } from './fft';

/** Autocorrelation at lags 0 … `lags`−1, by the transform; not normalised for the overlap. */
export function autocorrelation(values: ArrayLike<number>, lags: number): Float32Array {
  let size = 64;
  while (size < values.length + lags) size *= 2;
  const fft = new PairFft(size),
    a = new Float64Array(size);
  for (let i = 0; i < values.length; i++) a[i] = values[i];
  const re = new Float64Array(fft.bins),
    im = new Float64Array(fft.bins);
  fft.forward(a, null, re, im, null, null);
  for (let k = 0; k < fft.bins; k++) {
    re[k] = re[k] * re[k] + im[k] * im[k];
    im[k] = 0;
  }
  fft.inverse(re, im, null, null, a, null);
  return Float32Array.from({ length: lags }, (_, k) => a[k]);
}
