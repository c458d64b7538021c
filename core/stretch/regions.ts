import { KernelNumbers, kernels } from '../dsp/kernels/kernels';
import { keptByKey } from '../units/kept';

/** The regions of a spectrum: the peak of each, and the bin it begins at; it ends where the next begins, the last at `starts[count]`. */
export interface Regions {
  readonly count: number;
  readonly peaks: Int32Array;
  readonly starts: Int32Array;
}

/**
 * Finds the regions of frames' spectra `[dc, nyquist, re 1, im 1 …]`: each peak of the power summed over the channels, with the bins around
 * it to the valleys. All bins but the constant and the highest are in one.
 */
export class RegionFinder {
  private readonly power: Float32Array;
  private readonly peaks: Int32Array;
  private readonly starts: Int32Array;

  constructor(readonly bins: number) {
    this.power = new Float32Array(bins);
    this.peaks = new Int32Array(bins + 1);
    this.starts = new Int32Array(bins + 1);
  }

  /** @returns room that the next call uses again */
  find(spectra: readonly KernelNumbers[]): Regions {
    const { bins, power, peaks, starts } = this,
      one = roomOf(bins);
    spectra.forEach((spectrum, channel) => {
      kernels().powers(spectrum.at, one.at, bins, bins, 1);
      const { view } = one;
      if (channel === 0) power.set(view);
      else for (let k = 0; k < bins; k++) power[k] += view[k];
    });
    power[0] = 0;
    let count = 0,
      start = 1,
      peak = nextPeak(power, 2);
    while (start < bins) {
      const following = peak < bins ? nextPeak(power, peak + 1) : bins;
      let valley = bins;
      if (following < bins) {
        valley = peak + 1;
        for (let j = peak + 2; j < following; j++) if (power[j] < power[valley]) valley = j;
      }
      peaks[count] = Math.min(peak, bins - 1);
      starts[count++] = start;
      start = valley;
      peak = following;
    }
    starts[count] = bins;
    return { count, peaks, starts };
  }
}

export const copyOfRegions = ({ count, peaks, starts }: Regions): Regions => ({
  count,
  peaks: peaks.slice(0, count),
  starts: starts.slice(0, count + 1),
});

/** The power of one channel. */
const roomOf = keptByKey((bins: number) => new KernelNumbers(bins));

/** The next local maximum over ±2 bins from `from` on; the number of bins when there is none. */
function nextPeak(power: Float32Array, from: number): number {
  const bins = power.length;
  for (let k = from; k < bins - 2; k++) {
    const value = power[k];
    if (value > power[k - 1] && value >= power[k + 1] && value > power[k - 2] && value >= power[k + 2]) return k;
  }
  return bins;
}

/** Turns the bins `from` … `to` − 1 of a spectrum by a unit vector, in place. */
export function turnBins(spectrum: Float32Array, from: number, to: number, c: number, s: number): void {
  for (let j = 2 * from; j < 2 * to; j += 2) {
    const re = spectrum[j],
      im = spectrum[j + 1];
    spectrum[j] = re * c - im * s;
    spectrum[j + 1] = re * s + im * c;
  }
}
