import type { Treatment } from '~core/arrangement/treatment';
import type { LoopRow } from '~server/services/loop-rows';

/** What is heard as a candidate: a loop, what is done to it, and where in it one begins. */
export interface Wish {
  readonly row: LoopRow;
  readonly treatment: Treatment;
  /** Beats of the project by which the loop is begun later in itself: the accent moves. */
  readonly offsetBeats: number;
}
