import type { LoopOutline } from '~core/arrangement/fit-request';
import type { LoopRow } from './loop-row';

/** A loop as lists show it: no hits, no beats, of which a page of rows would be mostly made. Every `LoopRow` is one too. */
export interface LoopCard extends Omit<LoopRow, 'source'> {
  readonly source: LoopOutline;
}

/** Whether a loop that is shown can be heard as it is, with its hits. */
export const isWhole = (loop: LoopCard): loop is LoopRow => 'onsetFrames' in loop.source;
