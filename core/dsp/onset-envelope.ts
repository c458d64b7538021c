import { spectrogram } from './spectrogram';

/** Onset strength over time, in three bands (below 200 Hz, to 2 kHz, above), at `hopSeconds` a step. */
export interface OnsetEnvelope {
  readonly hopSeconds: number;
  readonly bands: readonly Float32Array[];
  readonly total: Float32Array;
}

const edgesHz = [200, 2000];

/** Half-wave rectified rise of the log magnitude between neighbouring frames (spectral flux; Dixon 2006), per band. */
export function onsetEnvelope(mono: Float32Array, sampleRateHz: number): OnsetEnvelope {
  const size = 1024,
    hop = 256;
  const { frameCount, bins, magnitudes } = spectrogram(mono, size, hop);
  const bands = [new Float32Array(frameCount), new Float32Array(frameCount), new Float32Array(frameCount)];
  const bandOf = Uint8Array.from({ length: bins }, (_, k) => {
    const hz = (k * sampleRateHz) / size;
    return hz < edgesHz[0] ? 0 : hz < edgesHz[1] ? 1 : 2;
  });
  const compress = (value: number) => Math.log1p(1000 * value);
  for (let frame = 1; frame < frameCount; frame++) {
    for (let k = 1; k < bins; k++) {
      const rise = compress(magnitudes[frame * bins + k]) - compress(magnitudes[(frame - 1) * bins + k]);
      if (rise > 0) bands[bandOf[k]][frame] += rise;
    }
  }
  // A sound that begins with the file has its rise in the very first frame.
  for (let k = 1; k < bins; k++) bands[bandOf[k]][0] += compress(magnitudes[k]);
  const counts = [0, 0, 0];
  for (const band of bandOf) counts[band]++;
  bands.forEach((band, index) => {
    for (let i = 0; i < band.length; i++) band[i] /= Math.sqrt(counts[index]);
  });
  const total = Float32Array.from({ length: frameCount }, (_, i) => bands[0][i] + bands[1][i] + bands[2][i]);
  return { hopSeconds: hop / sampleRateHz, bands, total };
}
