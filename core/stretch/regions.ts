import { KernelNumbers, kernels } from '../dsp/kernels/kernels';
import { keptByKey } from '../kept/kept';

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
  private readonly peaks: Int32Array;
  private readonly starts: Int32Array;

  constructor(readonly bins: number) {
    this.peaks = new Int32Array(bins + 1);
    this.starts = new Int32Array(bins + 1);
  }

  /** @returns room that the next call uses again */
  find(spectra: readonly KernelNumbers[]): Regions {
    const { bins, peaks, starts } = this,
      { power, one, found, begun } = roomOf(bins),
      loops = kernels();
    spectra.forEach((spectrum, channel) => {
      loops.powers(spectrum.at, channel === 0 ? power.at : one.at, bins, bins, 1);
      if (channel > 0) loops.add(power.at, one.at, power.at, bins);
    });
    power.view[0] = 0;
    const count = loops.findRegions(power.at, bins, found.at, begun.at);
    peaks.set(new Int32Array(loops.memory.buffer, found.at, count));
    starts.set(new Int32Array(loops.memory.buffer, begun.at, count + 1));
    return { count, peaks, starts };
  }
}

/** Regions that stay as they are when the arrays they came in are filled anew. */
export const copyOfRegions = ({ count, peaks, starts }: Regions): Regions => ({
  count,
  peaks: peaks.slice(0, count),
  starts: starts.slice(0, count + 1),
});

/** The power of all channels and of one, and where regions are written. */
const roomOf = keptByKey((bins: number) => ({
  power: new KernelNumbers(bins),
  one: new KernelNumbers(bins),
  found: new KernelNumbers(bins + 1),
  begun: new KernelNumbers(bins + 1),
}));

/** Turns the bins `from` … `to` − 1 of a spectrum by a unit vector, in place. */
export function turnBins(spectrum: Float32Array, from: number, to: number, c: number, s: number): void {
  for (let j = 2 * from; j < 2 * to; j += 2) {
    const re = spectrum[j],
      im = spectrum[j + 1];
    spectrum[j] = re * c - im * s;
    spectrum[j + 1] = re * s + im * c;
  }
}
