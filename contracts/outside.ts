import type { Key } from '~core/theory/key';

/** A loop on offer outside. What is stated of it is somebody's word, and may be wrong; null where nothing is. */
export interface OutsideLoop {
  readonly id: string;
  readonly title: string;
  readonly author: string;
  readonly category: string;
  readonly packId: string;
  readonly fileName: string;
  readonly tempoBpm: number | null;
  readonly bars: number | null;
  readonly key: Key | null;
  readonly licence: string;
  /** Where people look at it. */
  readonly pageUrl: string;
}

/** The same as the Exchange page lists it. */
export interface OutsideLine extends OutsideLoop {
  readonly source: string;
  /** The loop it became here; null when it was not taken. */
  readonly loopId: number | null;
}

/** A take that is under way or was, a pack at a time. */
export interface TakeLine {
  readonly batchId: number;
  readonly packName: string;
  readonly packId: number | null;
  readonly state: string;
  readonly message: string | null;
  readonly wanted: number;
  readonly received: number;
  readonly done: number;
  readonly failed: number;
  readonly duplicate: number;
}

/** Where a loop that was taken outside comes from. */
export interface Origin {
  readonly sourceName: string;
  readonly author: string;
  readonly licence: string;
  readonly pageUrl: string;
}
