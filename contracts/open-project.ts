import type { Project } from '~core/arrangement/tree';
import type { WholeLoop } from './whole-loop';

export interface OpenProject {
  readonly id: number;
  readonly revision: number;
  readonly project: Project;
  readonly loops: readonly WholeLoop[];
}
