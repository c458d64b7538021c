import { createStore } from 'zustand/vanilla';
import type { Fitted } from '~core/arrangement/fit-request';
import type { BeatRange, StartOn } from './transport';
import type { LoopRow } from '~server/services/loop-rows';

export interface Candidate {
  readonly row: LoopRow;
  readonly phase: 'fitting' | 'waiting' | 'sounding' | 'failed';
  /** Alone: as recorded, no project playing. */
  readonly alone: boolean;
  readonly fitted: Fitted;
  readonly message: string | null;
}

export interface AuditionSettings {
  readonly fitTempo: boolean;
  readonly fitKey: boolean;
  readonly evenLevel: boolean;
  readonly startOn: StartOn;
  readonly gainDb: number;
}

export interface EngineState {
  readonly playing: boolean;
  readonly candidate: Candidate | null;
  readonly settings: AuditionSettings;
  readonly range: BeatRange | null;
  /** Buffers of the project that are still being fitted. */
  readonly fittingCount: number;
  readonly trouble: string | null;
}

export const createEngineStore = () =>
  createStore<EngineState>(() => ({
    playing: false,
    candidate: null,
    settings: { fitTempo: true, fitKey: true, evenLevel: true, startOn: 'bar', gainDb: 0 },
    range: null,
    fittingCount: 0,
    trouble: null,
  }));
export type EngineStore = ReturnType<typeof createEngineStore>;
