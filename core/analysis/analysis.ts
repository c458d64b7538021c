import type { BarNotes, Triad } from './chords/bars';
import type { Evidence } from './facts';
import type { Levels } from './level/levels';
import type { HeardNote } from './melody/melody';
import type { Groove } from './rhythm/accents';
import type { BeatMap } from './rhythm/beat-map';
import type { Family } from '../theory/instruments';
import type { Reading } from './tempo/read-rhythm';

/** What is measured once and kept beside the facts. Times are seconds of the file. */
export interface Measures {
  readonly lengthSeconds: number;
  /** Where bar 1 begins. */
  readonly firstBarSeconds: number;
  readonly soundEndSeconds: number;
  readonly loudnessLufs: number | null;
  readonly peakDbfs: number | null;
  readonly overview: Uint8Array;
  /** Where it can be cut, to the frame. */
  readonly onsetFrames: readonly number[];
  /** Where something may begin that is too soft to be a hit for sure. */
  readonly faintFrames: readonly number[];
  readonly tuningCents: number;
  readonly chroma: readonly number[];
  /** 32 numbers that are near for sounds alike, see `likenessOf`; null for silence and for notes. */
  readonly likeness: Int8Array | null;
  /** What the same recording is known again by, see `fingerprint`; empty for notes. */
  readonly fingerprint: Uint32Array;
  readonly detail: Detail | null;
}

/** What charts, search and later readers draw on; kept as one document with the loop. */
export interface Detail {
  /** Ranked readings of the rhythm, at most `keptReadings`. */
  readonly readings: readonly Reading[];
  /** How well onsets repeat at each tempo of `pulseTempos`, 0–1. */
  readonly pulse: readonly number[];
  readonly groove: Groove | null;
  readonly bars: readonly BarNotes[];
  readonly families: readonly { readonly value: string; readonly probability: number }[];
  /** null for notes, which have none. */
  readonly levels: Levels | null;
  readonly character: readonly string[];
  /** Share of the energy in ten bands from low to high. */
  readonly bands: readonly number[];
  readonly tuningAgreement: number;
  /** Seconds that were heard of a very long file; null when all of it was. */
  readonly heardSeconds: number | null;
  // What follows is not known of loops that were analysed before it was measured.
  /** The notes of a loop that one voice plays; null for all else. */
  readonly melody?: readonly HeardNote[] | null;
  /** Where the beats fall when a player's time wanders; null when it doesn't. */
  readonly beatMap?: BeatMap | null;
  /** How the end joins the start, see `seamDb`; null for what is no loop. */
  readonly seamDb?: number | null;
  /** Every hit: seconds of the file, and how hard, 0–1. */
  readonly hits?: readonly (readonly [seconds: number, strength: number])[];
  /** Hits a beat, or a second where there is no beat. */
  readonly density?: number;
  /** Median centre of the spectrum, Hz; null for notes. */
  readonly brightnessHz?: number | null;
  /** From the loudest moment to a sixteenth of its energy; of notes unknown. */
  readonly fallSeconds?: number;
  /** Likeliest triad of each beat; empty where nothing is tuned or nothing has a beat. */
  readonly beatChords?: readonly (Triad | null)[];
  /** Families that may sound, each with its own chance, the surest first. */
  readonly heardFamilies?: readonly { readonly value: Family; readonly probability: number }[];
}

export interface Analysis {
  readonly evidence: readonly Evidence[];
  readonly measures: Measures;
}

export const overviewColumns = 240;
export const keptReadings = 14;

/** What was measured of a long file on the way through it, when only its beginning is in memory. */
export interface WholeSound {
  readonly lengthSeconds: number;
  readonly levels: Levels;
  readonly peakDbfs: number | null;
  readonly overview: Uint8Array;
  readonly lastSoundSeconds: number;
  readonly endLevelDb: number;
}
