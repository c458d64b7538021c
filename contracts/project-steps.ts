import type { Refused, Step } from '~core/arrangement/shared-project';
import type { Project } from '~core/arrangement/tree';

/** What has been agreed on a project since a revision: the steps in their order; of a long time ago the whole instead. */
export interface Agreed {
  readonly revision: number;
  readonly steps: readonly Step[];
  readonly project?: Project;
}

/** What became of steps that were sent. */
export interface StepsTaken extends Agreed {
  readonly refused: readonly Refused[];
}
