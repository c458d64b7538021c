import type { HeardNote } from '~core/analysis/melody/melody';
import type { BenchSetting, Step } from '~core/workbench/steps';

/** Page → bench worker: do these steps to the sound at `url`, and show it as it is before the step that is worked at. */
export interface BenchMessage {
  readonly id: number;
  readonly url: string;
  readonly steps: readonly Step[];
  readonly setting: BenchSetting;
  /** So many steps are done to what is shown; all of them to what is heard. */
  readonly shownSteps: number;
  /** Whether the line of a single voice is asked for too. */
  readonly withLine: boolean;
}

/** What a sound is on the bench, for drawing. */
export interface ShownSound extends BenchSetting {
  readonly channels: readonly Float32Array[];
  /** Columns of loudness by frequency, low to high, 0–255; `rows` a column. */
  readonly picture: { readonly columns: number; readonly rows: number; readonly bytes: Uint8Array };
  /** Pitch over time (0: none) and notes, in MIDI notes; null where it was not asked for. */
  readonly line: { readonly hopSeconds: number; readonly pitches: Float32Array; readonly notes: readonly HeardNote[] } | null;
}

export type BenchReply =
  | {
      readonly id: number;
      readonly ok: true;
      readonly shown: ShownSound;
      readonly made: BenchSetting & {
        readonly wav: Uint8Array;
        readonly frames: number;
        readonly loudnessLufs: number | null;
        readonly peakDbfs: number | null;
        readonly overview: Uint8Array;
        readonly tookMs: number;
      };
    }
  | { readonly id: number; readonly ok: false; readonly message: string };
