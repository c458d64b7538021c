import type { Mend, Rub } from '~core/arrangement/harmony/clash-meter';
import type { LoopSource } from '~core/arrangement/fit-request';
import type { Project } from '~core/arrangement/tree';

/** Page → worker: where does it rub; with a rub of it, what would mend that. */
export interface RubsMessage {
  readonly id: number;
  readonly project: Project;
  readonly sources: ReadonlyMap<number, LoopSource>;
  readonly mend: Rub | null;
}

/** Worker → page. */
export interface RubsReply {
  readonly id: number;
  readonly rubs: readonly Rub[];
  readonly mend: Mend | null;
}
