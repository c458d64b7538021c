import type { Key } from '../theory/key';

/** What is known of a sound when it comes onto the bench. */
export interface BenchSetting {
  /** null: not known, or it has none. */
  readonly tempoBpm: number | null;
  readonly beats: number | null;
  readonly barBeats: number;
  readonly key: Key | null;
  /** Frame at which its first bar begins. */
  readonly startFrame: number;
  readonly onsetFrames: readonly number[];
  /** Whether it goes round: what reaches past its end comes in at its start. */
  readonly isCycle: boolean;
}

/** A sound on the bench between two steps. */
export interface BenchSound extends BenchSetting {
  /** `[channel][frame]` at the project's rate; no step writes into those it was given. */
  readonly channels: readonly Float32Array[];
}

/** How long a sound on the bench is. */
export const framesOf = ({ channels }: Pick<BenchSound, 'channels'>): number => channels[0]?.length ?? 0;
