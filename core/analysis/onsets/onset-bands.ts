import { bandCentreHz, melBands, type MelFrames } from '../listen/mel';

/** Onset strength over time in four bands and in all; each with mean 1, so that loud files say no more than quiet ones. */
export interface OnsetBands {
  readonly hopSeconds: number;
  readonly frameCount: number;
  /** Below 150 Hz, to 600 Hz, to 3 kHz, above; then all together. */
  readonly bands: readonly Float32Array[];
}

export const bandEdgesHz = [150, 600, 3000];
export const allBand = 4;

/** Rise of the levels against two frames before, less its own slow average (spectral flux; Dixon 2006; SuperFlux's lag, Böck & Widmer 2013). */
export function onsetBands(mel: MelFrames): OnsetBands {
  const { frameCount, levels } = mel;
  const group = Uint8Array.from({ length: melBands }, (_, band) => {
    const hz = bandCentreHz(band);
    return hz < bandEdgesHz[0] ? 0 : hz < bandEdgesHz[1] ? 1 : hz < bandEdgesHz[2] ? 2 : 3;
  });
  const raw = Array.from({ length: 5 }, () => new Float32Array(frameCount));
  for (let frame = 0; frame < frameCount; frame++)
    for (let band = 0; band < melBands; band++) {
      const now = levels[frame * melBands + band],
        before = frame >= 2 ? levels[(frame - 2) * melBands + band] : 0;
      if (now > before) {
        raw[group[band]][frame] += now - before;
        raw[allBand][frame] += now - before;
      }
    }
  return { hopSeconds: mel.hopSeconds, frameCount, bands: raw.map(sharpen) };
}

/** Takes the slow average away and scales the rest to mean 1. */
function sharpen(values: Float32Array): Float32Array {
  const reach = 17,
    out = new Float32Array(values.length);
  let sum = 0,
    total = 0;
  for (let i = 0; i < Math.min(reach, values.length); i++) sum += values[i];
  for (let i = 0; i < values.length; i++) {
    if (i + reach < values.length) sum += values[i + reach];
    if (i - reach - 1 >= 0) sum -= values[i - reach - 1];
    const count = Math.min(values.length - 1, i + reach) - Math.max(0, i - reach) + 1;
    out[i] = Math.max(0, values[i] - sum / count);
    total += out[i];
  }
  const mean = total / (values.length || 1);
  // Two frames of rise become one peak: the start of the rise is what counts.
  return mean > 1e-4 ? out.map((value) => value / mean) : out.fill(0);
}
