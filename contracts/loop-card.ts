import type { LoopOutline } from '~core/arrangement/fit-request';

/** A loop as lists show it: no hits, no beats, of which a page of rows would be mostly made. */
export interface LoopCard {
  readonly id: number;
  readonly title: string;
  readonly fileName: string;
  /** What it takes to be fitted and drawn, without its hits and beats. */
  readonly source: LoopOutline;
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
  readonly setId: number | null;
  readonly setStem: string | null;
  readonly addedAt: string;
  readonly addedBy: string;
  readonly favourite: boolean;
  /** 1–5 from who looks; null where they gave none. */
  readonly stars: number | null;
  /** What they wrote beside it. */
  readonly note: string;
}
