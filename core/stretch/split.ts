import { realFft } from '../dsp/real-fft';
import { hannSingle } from '../dsp/window';
import { unroll } from './wrap';

export interface SplitSetting {
  readonly size: number;
  readonly hop: number;
  /** Frames of time, and bins of pitch, over which medians are taken; odd. */
  readonly timeFrames: number;
  readonly pitchBins: number;
  /** How many times stronger along time than along pitch a point must be to count as a held tone. */
  readonly margin: number;
}

/** Set on the tuning half of `bench:audio`, November 2026. */
export const splitSetting: SplitSetting = { size: 4096, hop: 1024, timeFrames: 25, pitchBins: 25, margin: 2 };

/**
 * Takes the held tones out of a cycle: a point of the spectrogram belongs to them where the median along time is `margin` times the median
 * along pitch (Fitzgerald 2010; the margin is of Driedger, Müller & Disch 2014). What is left is the cycle less the tones, so that both add
 * up to it again.
 * @returns the tones; the rest is the caller's subtraction
 */
export function heldTones(cycle: readonly Float32Array[], setting: SplitSetting = splitSetting): Float32Array[] {
  const { size, hop, timeFrames, pitchBins, margin } = setting,
    frames = cycle[0].length,
    count = Math.max(1, Math.round(frames / hop)),
    place = (frame: number) => Math.round((frame * frames) / count),
    bins = size / 2,
    fft = realFft(size),
    window = hannSingle(size),
    sources = cycle.map((plane) => unroll(plane, size / 2, size / 2 + 1)),
    spectra = cycle.map(() => Array.from({ length: count }, () => new Float32Array(size))),
    levels = Array.from({ length: count }, () => new Float32Array(bins));
  for (let frame = 0; frame < count; frame++) {
    const from = place(frame);
    sources.forEach((source, channel) => {
      const { time } = fft,
        spectrum = spectra[channel][frame];
      for (let i = 0; i < size; i++) time[i] = source[from + i] * window[i];
      fft.forward();
      spectrum.set(fft.spectrum);
      for (let k = 1; k < bins; k++) levels[frame][k] += spectrum[2 * k] ** 2 + spectrum[2 * k + 1] ** 2;
    });
    for (let k = 1; k < bins; k++) levels[frame][k] = Math.sqrt(levels[frame][k]);
  }
  const held = Array.from({ length: count }, () => new Float32Array(bins)),
    sorted = new Float32Array(Math.max(timeFrames, pitchBins)),
    span = Math.min(timeFrames, count % 2 ? count : count - 1 || 1);
  for (let k = 1; k < bins; k++) {
    const median = new RunningMedian(sorted, span);
    for (let frame = 0; frame < count + span - 1; frame++) {
      const value = median.next(levels[(frame - (span >> 1) + count) % count][k]);
      if (frame >= span - 1) held[frame - span + 1][k] = value;
    }
  }
  const out = cycle.map(() => new Float32Array(frames)),
    weights = new Float32Array(frames),
    sums = cycle.map(() => new Float32Array(frames));
  for (let frame = 0; frame < count; frame++) {
    const mask = new Float32Array(bins),
      median = new RunningMedian(sorted, pitchBins),
      reach = pitchBins >> 1;
    for (let k = 1; k < bins + reach; k++) {
      const value = median.next(k < bins ? levels[frame][k] : 0),
        at = k - reach;
      if (at < 1) continue;
      const a = held[frame][at] ** 2,
        b = (value * margin) ** 2;
      mask[at] = a > 0 ? a / (a + b) : 0;
    }
    const at = place(frame);
    for (let channel = 0; channel < cycle.length; channel++) {
      const spectrum = spectra[channel][frame];
      spectrum[0] = 0;
      spectrum[1] = 0;
      for (let k = 1; k < bins; k++) {
        spectrum[2 * k] *= mask[k];
        spectrum[2 * k + 1] *= mask[k];
      }
      fft.spectrum.set(spectrum);
      fft.inverse();
      addRound(fft.time, window, sums[channel], at - size / 2, 1 / size);
    }
    addRound(window, window, weights, at - size / 2, 1);
  }
  for (let channel = 0; channel < cycle.length; channel++)
    for (let i = 0; i < frames; i++) out[channel][i] = weights[i] > 1e-6 ? sums[channel][i] / weights[i] : 0;
  return out;
}

function addRound(values: Float32Array, window: Float32Array, into: Float32Array, from: number, scale: number): void {
  const frames = into.length;
  let at = ((from % frames) + frames) % frames;
  for (let i = 0; i < values.length; i++) {
    into[at] += values[i] * window[i] * scale;
    if (++at === frames) at = 0;
  }
}

/** Median of the last `span` values, kept in a sorted row. */
class RunningMedian {
  private readonly recent: Float32Array;
  private count = 0;

  constructor(
    private readonly sorted: Float32Array,
    private readonly span: number,
  ) {
    this.recent = new Float32Array(span);
  }

  next(value: number): number {
    const { sorted, span, recent } = this,
      slot = this.count % span;
    let length = Math.min(this.count, span);
    if (this.count >= span) {
      // Take the oldest out …
      const old = recent[slot];
      let at = 0;
      while (sorted[at] !== old) at++;
      for (; at + 1 < length; at++) sorted[at] = sorted[at + 1];
      length--;
    }
    // … and put the new one in.
    let at = length;
    while (at > 0 && sorted[at - 1] > value) {
      sorted[at] = sorted[at - 1];
      at--;
    }
    sorted[at] = value;
    recent[slot] = value;
    this.count++;
    return sorted[(length + 1) >> 1];
  }
}
