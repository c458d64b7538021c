import type { ClipOverrides } from '~core/arrangement/fit-settings';
import type { WholeLoop } from '~contracts/whole-loop';

/** What is heard as a candidate: a loop, what is done to it, and where in it one begins. */
export interface CandidateRequest {
  readonly row: WholeLoop;
  readonly overrides: ClipOverrides;
  /** Beats of the project by which the loop is begun later in itself: the accent moves. */
  readonly offsetBeats: number;
}
