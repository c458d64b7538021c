import type { Project } from '~core/arrangement/tree';
import type { LoopSource } from '~core/arrangement/fit-request';
import type { Evidence } from '~core/analysis/facts';
import type { Measures } from '~core/analysis/analyse-audio';

/** What goes into the CPU pool and what comes out. A file's own fault comes back as data, not as an exception. */
export interface AnalyseRequest {
  readonly task: 'analyse';
  readonly filePath: string;
  readonly vendorPath: string;
  /** Where a sound too long for a message is left as a file, which the caller takes away; null when no sound is wanted. */
  readonly scratchDir: string | null;
  /** What persons, its set and its pack say of it, by which its bars are told. */
  readonly said?: readonly Evidence[];
}
export type AnalyseResult =
  | {
      readonly ok: true;
      readonly media: 'audio' | 'midi';
      readonly format: string;
      readonly evidence: readonly Evidence[];
      readonly measures: Measures;
      readonly soundFrames: number;
      /** Float WAV at the project's rate: its bytes, or the path of a file that holds them; null for notes, and when none is wanted. */
      readonly sound: Uint8Array | string | null;
    }
  | { readonly ok: false; readonly message: string };

export interface ExportRequest {
  readonly task: 'export';
  readonly project: Project;
  readonly sources: readonly LoopSource[];
  /** File of each sound by its hash. */
  readonly paths: Readonly<Record<string, string>>;
  readonly bits: 16 | 24;
  readonly rateHz: 44100 | 48000;
}
export interface ExportResult {
  readonly wav: Uint8Array;
  readonly peakDbfs: number | null;
}
