import { copyOfRegions, turnBins, type Regions } from './regions';

/** Spectra of a frame, one a channel, and their regions. */
export interface Frame {
  readonly spectra: readonly Float32Array[];
  readonly regions: Regions;
}

/** A frame that stays as it is when the one it came in is filled anew. */
export const copyOfFrame = ({ spectra, regions }: Frame): Frame => ({
  spectra: spectra.map((spectrum) => spectrum.slice()),
  regions: copyOfRegions(regions),
});

/**
 * How the last frames of a cycle are led back to the phases of its first. A cycle's tones seldom fit into it in whole periods; faded over, end
 * and start would cancel each other for a tenth of a second, so each region of the spectrum is turned a little more from frame to frame
 * instead, until it arrives at the phase it began with.
 */
export class Return {
  private readonly turns: Float32Array;
  private readonly lengths: Float32Array;

  /**
   * @param end the frame that would follow after a whole cycle
   * @param first the one it began with, of the same magnitudes
   * @param before the one of a frame's size before the end
   * @param many over so many frames returns a tone that goes on over the end
   * @param few over so many what begins there anew
   */
  constructor(end: Frame, first: Frame, before: Frame, many: number, few: number) {
    const bins = first.spectra[0].length / 2,
      { count, peaks, starts } = first.regions;
    this.turns = new Float32Array(bins);
    this.lengths = new Float32Array(bins);
    for (let region = 0; region < count; region++) {
      const from = starts[region],
        to = starts[region + 1];
      this.turns.fill(angleBetween(end.spectra, first.spectra, peaks[region]), from, to);
      this.lengths.fill(powerOf(before.spectra, from, to) >= goesOn * powerOf(first.spectra, from, to) ? many : few, from, to);
    }
  }

  /** Turns a frame in place, as far as is due so many frames before the end; each region as a whole. */
  apply({ spectra, regions: { count, peaks, starts } }: Frame, framesLeft: number): void {
    const { turns, lengths } = this;
    for (let region = 0; region < count; region++) {
      const peak = peaks[region],
        angle = turns[peak] * Math.max(0, 1 - framesLeft / (lengths[peak] + 1));
      if (angle === 0) continue;
      const c = Math.cos(angle),
        s = Math.sin(angle);
      for (const spectrum of spectra) turnBins(spectrum, starts[region], starts[region + 1], c, s);
    }
  }
}

/** A tone goes on when there is so much of it before the end already, of what there is at the end. */
const goesOn = 0.1;

/** By how much a bin is to be turned to get from the one phase to the other, over all channels; −π to π. */
function angleBetween(from: readonly Float32Array[], to: readonly Float32Array[], bin: number): number {
  const at = 2 * bin;
  let re = 0,
    im = 0;
  from.forEach((x, channel) => {
    const y = to[channel];
    re += y[at] * x[at] + y[at + 1] * x[at + 1];
    im += y[at + 1] * x[at] - y[at] * x[at + 1];
  });
  return Math.atan2(im, re);
}

function powerOf(spectra: readonly Float32Array[], from: number, to: number): number {
  let sum = 0;
  for (const spectrum of spectra) for (let j = 2 * from; j < 2 * to; j++) sum += spectrum[j] * spectrum[j];
  return sum;
}
