import type { LoopSource } from '~core/arrangement/fit-request';

/** A loop with all that is needed to hear it: as tray, project and engine know it. Lists have `LoopCard`s. */
export interface LoopRow {
  readonly id: number;
  readonly title: string;
  readonly fileName: string;
  readonly source: LoopSource;
  readonly bars: number | null;
  readonly meter: string | null;
  readonly tempoConfidence: number | null;
  readonly keyConfidence: number | null;
  readonly lengthSeconds: number;
  readonly peakDbfs: number | null;
  /** 240 bytes, base64. */
  readonly overview: string;
  readonly packId: number;
  readonly packName: string;
  readonly vendor: string;
  readonly setStem: string | null;
  readonly addedAt: string;
  readonly addedBy: string;
  readonly favourite: boolean;
}
