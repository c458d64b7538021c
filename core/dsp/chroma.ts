import { hzToNote, pitchClass } from '../units/pitch';
import { spectrogram } from './spectrogram';

export interface Chroma {
  /** Strength of each pitch class over the whole sound, sum 1; all 0 for silence. */
  readonly whole: Float32Array;
  /** The same for notes below 250 Hz. */
  readonly bass: Float32Array;
  /** Deviation of the sound's tuning from A4 = 440 Hz, −50 … 50 cents. */
  readonly tuningCents: number;
  /** 0–1: how much of the energy sits in stable spectral peaks. Drums about 0.1–0.3, chords 0.6 and more. */
  readonly pitchedness: number;
  /** Energy-weighted note number of the strongest low peaks. */
  readonly centreNote: number | null;
}

interface Peak {
  note: number;
  strength: number;
  frame: number;
}

/** Spectral peaks between 40 Hz and 4 kHz that last over at least three frames; gathered by pitch class. */
export function chroma(mono: Float32Array, sampleRateHz: number): Chroma {
  const size = 8192,
    hop = 2048;
  const spectrum = spectrogram(mono, size, hop);
  const peaks = stablePeaks(spectrum.magnitudes, spectrum.frameCount, spectrum.bins, sampleRateHz / size);
  const tuningCents = estimateTuning(peaks.list);
  const whole = new Float32Array(12),
    bass = new Float32Array(12);
  let noteSum = 0,
    weightSum = 0;
  for (const peak of peaks.list) {
    const note = peak.note - tuningCents / 100;
    const offKey = Math.abs(note - Math.round(note));
    const weight = peak.strength * Math.max(0, 1 - 2 * offKey);
    whole[pitchClass(note)] += weight;
    if (note < 59) bass[pitchClass(note)] += weight;
    noteSum += note * weight;
    weightSum += weight;
  }
  return {
    whole: normalise(whole),
    bass: normalise(bass),
    tuningCents,
    pitchedness: peaks.share,
    centreNote: weightSum > 0 ? noteSum / weightSum : null,
  };
}

function stablePeaks(magnitudes: Float32Array, frameCount: number, bins: number, binHz: number): { list: Peak[]; share: number } {
  const low = Math.ceil(40 / binHz),
    high = Math.min(bins - 2, Math.floor(4000 / binHz));
  const list: Peak[] = [];
  let peakEnergy = 0,
    allEnergy = 0;
  for (let frame = 0; frame < frameCount; frame++) {
    const row = frame * bins;
    let loudest = 0;
    for (let k = low; k <= high; k++) {
      const m = magnitudes[row + k];
      allEnergy += m * m;
      if (m > loudest) loudest = m;
    }
    if (loudest < 1e-5) continue;
    for (let k = low; k <= high; k++) {
      const m = magnitudes[row + k];
      if (m < loudest * 0.03 || m <= magnitudes[row + k - 1] || m < magnitudes[row + k + 1]) continue;
      const previous = frame > 0 ? largestNear(magnitudes, row - bins + k) : 0,
        next = frame + 1 < frameCount ? largestNear(magnitudes, row + bins + k) : 0;
      if (Math.min(previous, next) < m * 0.4) continue;
      // A tone stands well above what surrounds it a little further away; noise does not.
      const around = (magnitudes[row + k - 4] + magnitudes[row + k - 3] + magnitudes[row + k + 3] + magnitudes[row + k + 4]) / 4;
      if (m < around * 4) continue;
      const a = Math.log(magnitudes[row + k - 1] + 1e-12),
        b = Math.log(m),
        c = Math.log(magnitudes[row + k + 1] + 1e-12);
      const shift = (a - c) / (2 * (a - 2 * b + c));
      for (let near = -2; near <= 2; near++) peakEnergy += magnitudes[row + k + near] ** 2;
      list.push({ note: hzToNote((k + (Number.isFinite(shift) ? shift : 0)) * binHz), strength: Math.sqrt(m), frame });
    }
  }
  return { list, share: allEnergy > 0 ? Math.min(1, peakEnergy / allEnergy) : 0 };
}

const largestNear = (magnitudes: Float32Array, at: number): number => Math.max(magnitudes[at - 1], magnitudes[at], magnitudes[at + 1]);

/** Circular mean of the peaks' deviation from whole semitones. */
function estimateTuning(peaks: readonly Peak[]): number {
  let x = 0,
    y = 0;
  for (const peak of peaks) {
    const angle = 2 * Math.PI * (peak.note - Math.round(peak.note));
    x += Math.cos(angle) * peak.strength;
    y += Math.sin(angle) * peak.strength;
  }
  return x === 0 && y === 0 ? 0 : (Math.atan2(y, x) / (2 * Math.PI)) * 100;
}

function normalise(values: Float32Array): Float32Array {
  const sum = values.reduce((a, b) => a + b, 0);
  return sum > 0 ? values.map((value) => value / sum) : values;
}
