import type { Takeback } from '~core/arrangement/shared-project';
import type { Project } from '~core/arrangement/tree';
import type { WholeLoop } from './whole-loop';

export interface OpenProject {
  readonly id: number;
  readonly revision: number;
  readonly project: Project;
  readonly loops: readonly WholeLoop[];
  /** What who opens it could take back, and do again, oldest first. */
  readonly undo: readonly Takeback[];
  readonly redo: readonly Takeback[];
}
