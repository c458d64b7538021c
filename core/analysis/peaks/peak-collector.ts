import { ratioToDb } from '../../units/level';
import { survey } from '../../dsp/kernels/planes';

/** Peaks of a sound that comes piece by piece, fine enough to be gathered into an overview of any length at its end. */
export class PeakCollector {
  private readonly peaks: number[] = [];
  private frames = 0;

  constructor(private readonly blockFrames = 1024) {}

  push(planes: readonly Float32Array[]): void {
    const length = planes[0]?.length ?? 0;
    for (let from = 0; from < length;) {
      const block = Math.floor((this.frames + from) / this.blockFrames),
        to = Math.min(length, (block + 1) * this.blockFrames - this.frames);
      for (const plane of planes) this.peaks[block] = Math.max(this.peaks[block] ?? 0, survey(plane, plane, from, to).peaks[0]);
      from = to;
    }
    this.frames += length;
  }

  /** As `overviewPeaks` gives it, its edges rounded to whole blocks. */
  overview(columns: number): Uint8Array {
    const blocks = this.peaks.length;
    return Uint8Array.from({ length: columns }, (_, column) => {
      const from = Math.floor((column * blocks) / columns),
        to = Math.max(from + 1, Math.floor(((column + 1) * blocks) / columns));
      let peak = 0;
      for (let block = from; block < Math.min(to, blocks); block++) peak = Math.max(peak, this.peaks[block]);
      return Math.round(Math.sqrt(Math.min(1, peak)) * 255);
    });
  }

  /** Last moment above −60 dB of the peak, and the level of the last block against the loudest, as `soundSpan` gives them. */
  end(sampleRateHz: number): { lastSoundSeconds: number; endLevelDb: number } {
    let loudest = 0;
    for (const peak of this.peaks) loudest = Math.max(loudest, peak);
    if (loudest === 0) return { lastSoundSeconds: 0, endLevelDb: -100 };
    const last = this.peaks.findLastIndex((peak) => peak > loudest * 0.001),
      final = this.peaks[this.peaks.length - 1] / loudest;
    return {
      lastSoundSeconds: Math.min(this.frames, (last + 1) * this.blockFrames) / sampleRateHz,
      endLevelDb: final > 1e-5 ? ratioToDb(final) : -100,
    };
  }
}
