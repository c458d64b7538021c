import type { FitRequest } from '~core/arrangement/fit-request';

/** Page → fit worker: make this buffer out of the sound at `url`. */
export interface FitMessage {
  readonly id: number;
  readonly request: FitRequest;
  readonly url: string;
  /** The bytes of a sound that lies on no server. */
  readonly sound?: Uint8Array;
}

/** Fit worker → page. A failure travels as data, with the request's id. */
export type FitReply =
  | {
      readonly id: number;
      readonly ok: true;
      readonly channels: readonly Float32Array[];
      /** Measured here for notes only; sounds bring theirs along. */ readonly loudnessLufs: number | null;
    }
  | { readonly id: number; readonly ok: false; readonly message: string };

/** Meter worklet → page, about forty times a second: the frame counter of the audio thread and the peaks since the last message, as ratios. */
export interface MeterMessage {
  readonly frame: number;
  readonly peaks: readonly [number, number];
  /** Between the samples too, as ITU-R BS.1770-4, annex 2, estimates them. */
  readonly truePeaks: readonly [number, number];
  /** The lowest gain by which the ceiling held the sum under full scale; 1: it was let be. */
  readonly heldGainRatio: number;
}
