import { realFft } from './real-fft';

/** Autocorrelation at lags 0 … `lags`−1, by the transform; not normalised for the overlap. */
export function autocorrelation(values: ArrayLike<number>, lags: number): Float32Array {
  let size = 64;
  while (size < values.length + lags) size *= 2;
  const fft = realFft(size),
    { time } = fft;
  for (let i = 0; i < values.length; i++) time[i] = values[i];
  time.fill(0, values.length);
  fft.forward();
  const { spectrum } = fft;
  spectrum[0] *= spectrum[0];
  spectrum[1] *= spectrum[1];
  for (let k = 2; k < size; k += 2) {
    spectrum[k] = spectrum[k] * spectrum[k] + spectrum[k + 1] * spectrum[k + 1];
    spectrum[k + 1] = 0;
  }
  fft.inverse();
  return Float32Array.from({ length: lags }, (_, k) => fft.time[k] / size);
}
