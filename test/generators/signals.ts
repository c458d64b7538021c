import { createRandom } from '../../core/synth/random';

export const rateHz = 44100;

/** A sine of `seconds`, amplitude 0.5 by default. */
export function sine(hz: number, seconds: number, amplitude = 0.5): Float32Array {
  return Float32Array.from({ length: Math.round(seconds * rateHz) }, (_, i) => amplitude * Math.sin((2 * Math.PI * hz * i) / rateHz));
}

/** Short decaying noise bursts at the given seconds, over silence. */
export function hits(atSeconds: readonly number[], seconds: number, seed = 1): Float32Array {
  const random = createRandom(seed);
  const out = new Float32Array(Math.round(seconds * rateHz));
  for (const at of atSeconds) {
    const start = Math.round(at * rateHz);
    for (let i = 0; i < 0.09 * rateHz && start + i < out.length; i++)
      out[start + i] += (random() * 2 - 1) * 0.7 * Math.exp(-i / (0.018 * rateHz));
  }
  return out;
}

/** Sum of harmonic tones for MIDI notes, steady, each tuned to fill `seconds` with whole periods: a true loop. */
export function chord(notes: readonly number[], seconds: number): Float32Array {
  const out = new Float32Array(Math.round(seconds * rateHz));
  for (const note of notes) {
    const hz = Math.round(440 * 2 ** ((note - 69) / 12) * seconds) / seconds;
    for (let harmonic = 1; harmonic <= 6; harmonic++)
      for (let i = 0; i < out.length; i++) out[i] += (0.12 / harmonic) * Math.sin((2 * Math.PI * hz * harmonic * i) / rateHz);
  }
  return out;
}

export function rms(signal: ArrayLike<number>, from = 0, to = signal.length): number {
  let sum = 0;
  for (let i = from; i < to; i++) sum += signal[i] * signal[i];
  return Math.sqrt(sum / Math.max(1, to - from));
}

/** Frequency of the strongest partial by zero crossings of a near-sine, in Hz. */
export function zeroCrossingHz(signal: Float32Array): number {
  let first = -1,
    last = -1,
    count = 0;
  for (let i = 1; i < signal.length; i++)
    if (signal[i - 1] < 0 && signal[i] >= 0) {
      const at = i - signal[i] / (signal[i] - signal[i - 1]);
      if (first < 0) first = at;
      else count++;
      last = at;
    }
  return (count * rateHz) / (last - first);
}

/** Third difference at the wrap of a loop against the 99.9th percentile inside, in dB; above 0 is an audible click. */
export function seamDb(loop: Float32Array): number {
  const n = loop.length;
  const third = (i: number) => Math.abs(loop[(i + 3) % n] - 3 * loop[(i + 2) % n] + 3 * loop[(i + 1) % n] - loop[i % n]);
  const inside = Float64Array.from({ length: n - 8 }, (_, i) => third(i + 2)).sort();
  const seam = Math.max(third(n - 3), third(n - 2), third(n - 1), third(n - 4));
  return 20 * Math.log10((seam + 1e-12) / (inside[Math.floor(inside.length * 0.999)] + 1e-12));
}
