import type { MeterMessage } from '~workers/protocol';

/** The highest levels since they were last looked at, as ratios, and the lowest gain of the ceiling that keeps what is heard under full scale. */
export interface HeldPeaks {
  readonly peaks: readonly [number, number];
  readonly truePeaks: readonly [number, number];
  readonly heldGainRatio: number;
}

/** Gathers what the meter says between two looks at it. */
export class PeakHold {
  private levels = [0, 0, 0, 0];
  private heldGainRatio = 1;

  push({ peaks, truePeaks, heldGainRatio }: Pick<MeterMessage, 'peaks' | 'truePeaks' | 'heldGainRatio'>): void {
    this.heldGainRatio = Math.min(this.heldGainRatio, heldGainRatio);
    this.levels = [...peaks, ...truePeaks].map((value, k) => Math.max(value, this.levels[k]));
  }

  take(): HeldPeaks {
    const {
      levels: [left, right, trueLeft, trueRight],
      heldGainRatio,
    } = this;
    this.levels = [0, 0, 0, 0];
    this.heldGainRatio = 1;
    return { peaks: [left, right], truePeaks: [trueLeft, trueRight], heldGainRatio };
  }
}
