import type { LoopSource } from '~core/arrangement/fit-request';
import type { LoopCard } from './loop-card';

/** A card with all that is needed to hear the loop. */
export interface WholeLoop extends LoopCard {
  readonly source: LoopSource;
}

/** What of a loop sounds: the engine wants no more. */
export type SoundingLoop = Pick<WholeLoop, 'id' | 'source'>;

/** Whether a loop lies outside still: it can be heard, and has no page, no notes and no place here. */
export const isOutside = (loopId: number): boolean => loopId < 0;

/** Under this number what lies on the workbench is heard: it is in no library yet. */
export const benchLoopId = -2_000_000_000;

/** Whether a loop that is shown can be heard as it is, with its hits. */
export const isWhole = (loop: LoopCard): loop is WholeLoop => 'onsetFrames' in loop.source;
