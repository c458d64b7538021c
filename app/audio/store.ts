import { createStore } from 'zustand/vanilla';
import type { Fitted } from '~core/arrangement/fit-request';
import type { Shortlist } from './shortlist';
import type { BeatRange, StartOn } from './transport';
import type { CandidateRequest } from './candidate-request';

export interface Candidate extends CandidateRequest {
  readonly phase: 'fitting' | 'waiting' | 'sounding' | 'failed';
  /** Alone: as recorded, no project playing. */
  readonly alone: boolean;
  readonly fitted: Fitted;
  readonly message: string | null;
}

/** With the project, without it, or without one of its tracks: "instead of this one". */
export type HeardWith = 'project' | 'alone' | { readonly withoutTrackId: string };

export interface AuditionSettings {
  readonly fitTempo: boolean;
  readonly fitKey: boolean;
  readonly evenLevel: boolean;
  readonly startOn: StartOn;
  readonly gainDb: number;
  /** Takes away what a bass would cover in the full piece. */
  readonly lowCut: boolean;
  readonly mono: boolean;
  readonly heardWith: HeardWith;
}

export interface TransportSettings {
  readonly metronome: boolean;
  readonly countInBars: 0 | 1 | 2;
}

/** What one hears loops with where no project is in the room. */
export interface Free {
  readonly tempoBpm: number;
  /** MIDI note of the drone. */
  readonly droneNote: number | null;
  /** Semitones from its note to the third that makes a chord of it: 3 minor, 4 major. */
  readonly droneThird: 3 | 4 | null;
}

export interface EngineState {
  readonly playing: boolean;
  readonly candidate: Candidate | null;
  readonly settings: AuditionSettings;
  readonly transportSettings: TransportSettings;
  readonly shortlist: Shortlist;
  /** Walking through the list by itself; null when it is not. */
  readonly handsFree: { readonly barsEach: number } | null;
  /** Tempo and drone where no project is in the room. */
  readonly free: Free;
  readonly range: BeatRange | null;
  /** Buffers of the project that are still being fitted. */
  readonly fittingCount: number;
  /** Hashes of sounds that the project should play and that cannot be had: its clips of them are silent. */
  readonly silentSounds: ReadonlySet<string>;
  readonly trouble: string | null;
}

export const createEngineStore = () =>
  createStore<EngineState>(() => ({
    playing: false,
    candidate: null,
    settings: {
      fitTempo: true,
      fitKey: true,
      evenLevel: true,
      startOn: 'bar',
      gainDb: 0,
      lowCut: false,
      mono: false,
      heardWith: 'project',
    },
    transportSettings: { metronome: false, countInBars: 0 },
    shortlist: { entries: [], blind: null },
    handsFree: null,
    free: { tempoBpm: 120, droneNote: null, droneThird: null },
    range: null,
    fittingCount: 0,
    silentSounds: new Set(),
    trouble: null,
  }));
export type EngineStore = ReturnType<typeof createEngineStore>;
