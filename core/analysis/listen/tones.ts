import { topOffset } from '../../dsp/parabola';
import { spectrogram } from '../../dsp/spectrogram';
import { hzToNote } from '../../units/pitch';

/** Spectrum below 5 kHz with bins fine enough to tell notes apart. */
export interface ToneFrames {
  readonly hopSeconds: number;
  readonly frameCount: number;
  readonly bins: number;
  readonly binHz: number;
  readonly magnitudes: Float32Array;
  /** Deviation of the sound's tuning from A4 = 440 Hz, −50 … 50 cents, and how much the peaks agree on it, 0–1. */
  readonly tuningCents: number;
  readonly tuningAgreement: number;
  /** Share of the energy that sits in narrow peaks which last. */
  readonly peakShare: number;
}

const size = 16384,
  hop = 4096,
  /** Bins below 5.5 kHz; what is above says nothing about notes. */
  keptBins = 2049;

/** Frames of 372 ms every 93 ms. */
export function toneFrames(mono: Float32Array, sampleRateHz: number, gain: number): ToneFrames {
  const { frameCount, bins, magnitudes } = spectrogram(mono, size, hop, keptBins),
    binHz = sampleRateHz / size;
  for (let k = 0; k < magnitudes.length; k++) magnitudes[k] *= gain;
  return { hopSeconds: hop / sampleRateHz, frameCount, bins, binHz, magnitudes, ...tuningOf(magnitudes, frameCount, bins, binHz) };
}

/** Circular mean of the deviation of spectral peaks between 80 Hz and 2.5 kHz from whole semitones. */
function tuningOf(
  magnitudes: Float32Array,
  frameCount: number,
  bins: number,
  binHz: number,
): Pick<ToneFrames, 'tuningCents' | 'tuningAgreement' | 'peakShare'> {
  const from = Math.max(3, Math.ceil(80 / binHz)),
    to = Math.min(bins - 4, Math.floor(2500 / binHz));
  let x = 0,
    y = 0,
    weight = 0,
    inPeaks = 0,
    all = 0;
  for (let frame = 0; frame < frameCount; frame++) {
    const row = frame * bins;
    let loudest = 0;
    for (let k = from; k <= to; k++) {
      const m = magnitudes[row + k];
      all += m * m;
      if (m > loudest) loudest = m;
    }
    if (loudest < 1e-4) continue;
    for (let k = from; k <= to; k++) {
      const m = magnitudes[row + k];
      if (m < loudest * 0.04 || m <= magnitudes[row + k - 1] || m < magnitudes[row + k + 1]) continue;
      const around = (magnitudes[row + k - 3] + magnitudes[row + k + 3]) / 2;
      if (m < around * 3) continue;
      const near = (other: number) => Math.max(magnitudes[other + k - 1], magnitudes[other + k], magnitudes[other + k + 1]);
      const lasts = Math.max(frame > 0 ? near(row - bins) : 0, frame + 1 < frameCount ? near(row + bins) : 0);
      if (lasts < m * 0.35) continue;
      const log = (bin: number) => Math.log(magnitudes[row + bin] + 1e-12),
        note = hzToNote((k + topOffset(log(k - 1), log(k), log(k + 1))) * binHz),
        angle = 2 * Math.PI * (note - Math.round(note)),
        strength = Math.sqrt(m);
      x += Math.cos(angle) * strength;
      y += Math.sin(angle) * strength;
      weight += strength;
      for (let near = -2; near <= 2; near++) inPeaks += magnitudes[row + k + near] ** 2;
    }
  }
  return {
    tuningCents: weight > 0 ? (Math.atan2(y, x) / (2 * Math.PI)) * 100 : 0,
    tuningAgreement: weight > 0 ? Math.hypot(x, y) / weight : 0,
    peakShare: all > 0 ? Math.min(1, inPeaks / all) : 0,
  };
}
