import type { Project } from '~core/arrangement/tree';
import type { LoopSource } from '~core/arrangement/fit-request';
import type { Evidence } from '~core/analysis/facts';
import type { PartialAnalysis } from '~core/analysis/analyse-audio';
import type { Overs } from '~core/mix/overs';
import type { Measures } from '~core/analysis/analysis';
import type { Given } from '~core/analysis/listening';
import type { Part } from '~core/analysis/parts';
import type { MakeHow } from '~contracts/making';
import type { OwnInstrument } from '~core/theory/instruments';
import type { StagedName } from '../../storage/file-storage';

/** What goes into the CPU pool and what comes out; files are named by their hashes, and the threads ask the store for them. A file's own fault comes back as data, not as an exception. */
export interface AnalyseRequest {
  readonly task: 'analyse';
  readonly fileSha256: string;
  readonly vendorPath: string;
  /** The group's own instruments, which names may mean. */
  readonly ownInstruments: readonly OwnInstrument[];
}
export type AnalyseResult =
  | {
      readonly ok: true;
      readonly media: 'audio' | 'midi';
      readonly format: string;
      readonly evidence: readonly Evidence[];
      readonly measures: Measures;
      readonly soundFrames: number;
      /** Float WAV at the project's rate: its bytes, or where they are staged when they are too many for a message; null for notes. */
      readonly sound: Uint8Array | StagedName | null;
    }
  | { readonly ok: false; readonly message: string };

/** To hear parts of a stored file again. */
export interface RenewRequest {
  readonly task: 'renew';
  readonly fileSha256: string;
  readonly vendorPath: string;
  readonly ownInstruments: readonly OwnInstrument[];
  readonly parts: ReadonlySet<Part>;
  readonly given: Given;
}
export type RenewResult = ({ readonly ok: true } & PartialAnalysis) | { readonly ok: false; readonly message: string };

/** How a piece goes out. */
export interface ExportForm {
  /** The mixdown alone, or in one archive with a stem a track, the notes and what was used. */
  readonly what: 'mixdown' | 'stems';
  /** 32: floating point, which nothing clips. */
  readonly bits: 16 | 24 | 32;
  readonly rateHz: 44100 | 48000;
  readonly overs: Overs;
}
export interface ExportRequest extends Omit<ExportForm, 'what'> {
  readonly task: 'export';
  /** Under which its progress is told, and it can be ended. */
  readonly name: string;
  readonly project: Project;
  readonly sources: readonly LoopSource[];
}
export interface StemsRequest extends Omit<ExportRequest, 'task'> {
  readonly task: 'stems';
  /** What is heard in the piece, and under which licence, as text. */
  readonly credits: string;
}
/** To make a loop: of a part of a project, or of another loop by steps. */
export type MakeRequest = { readonly task: 'make'; readonly sources: readonly LoopSource[] } & Exclude<MakeHow, { kind: 'file' }>;
export type MakeResult =
  | {
      readonly ok: true;
      readonly bytes: Uint8Array;
      readonly media: 'audio' | 'midi';
      /** What could not be played, and is silent in it. */
      readonly silentLoopIds: readonly number[];
    }
  /** A step asks for what cannot be. */
  | { readonly ok: false; readonly message: string };

interface Level {
  /** Of the sum as it was. */
  readonly peakDbfs: number | null;
  /** By how much all of it was brought down, dB. */
  readonly loweredDb: number;
  /** Loops that could not be played, and are silent in it. */
  readonly silentLoopIds: readonly number[];
}
export interface ExportResult extends Level {
  readonly wav: Uint8Array;
}
export interface StemsResult extends Level {
  /** The archive, which is too long for a message, waits in the store. */
  readonly zip: StagedName;
  readonly stems: number;
  /** Tracks of which the notes are in it. */
  readonly noteFiles: number;
}

/** What every task has for what waits on the disk meanwhile. */
export interface Scratch {
  readonly scratchFolder: string;
}
/** All that a thread of the pool is asked. */
export type PoolRequest = AnalyseRequest | RenewRequest | ExportRequest | StemsRequest | MakeRequest;

/** What a thread tells while it works: how far it is, 0–1. */
export interface Progress {
  readonly progressOf: string;
  readonly share: number;
}
