import type { Project } from '~core/arrangement/tree';
import type { LoopRow } from './loop-row';

export interface OpenProject {
  readonly id: number;
  readonly revision: number;
  readonly project: Project;
  readonly loops: readonly LoopRow[];
}
