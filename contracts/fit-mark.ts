import type { FitPart } from '~core/search/fit/weights';

/** How well a loop belongs to what sounds, as a row shows it. */
export interface FitMark {
  readonly score: number;
  /** Where the score may lie, for what is not known. */
  readonly low: number;
  readonly high: number;
  readonly words: string;
  readonly parts: readonly { readonly part: FitPart; readonly points: number; readonly doubt: number; readonly words: string | null }[];
}
