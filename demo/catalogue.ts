import type { Key } from '../core/theory/key';
import type { Scale } from './compose/harmony';

/** What the generator knows for certain of a file; tests compare the detectors with it. */
export interface Truth {
  readonly kind: 'loop' | 'one-shot' | 'phrase' | 'full-mix';
  readonly tempoBpm: number | null;
  readonly bars: number | null;
  readonly meter: '4/4' | '3/4';
  /** null: unpitched. */
  readonly key: Key | null;
  readonly instrument: string;
}

/** The troubles of real packs. */
export interface Trouble {
  /** Seconds of ringing behind the last bar. */
  readonly tailSeconds?: number;
  /** Silence in front. */
  readonly leadSeconds?: number;
  readonly peakDbfs?: number;
}

export type AudioFormat = 'wav16' | 'wav24' | 'wav32f' | 'aiff16' | 'aiff24' | 'flac' | 'ogg';
export type Player =
  | 'drums'
  | 'tops'
  | 'kick'
  | 'shaker'
  | 'tambourine'
  | 'conga'
  | 'woodblock'
  | 'bell'
  | 'table'
  | 'bass'
  | 'walk'
  | 'longbass'
  | 'comp'
  | 'strum'
  | 'pad'
  | 'arp8'
  | 'arp16'
  | 'melody'
  | 'stabs'
  | 'riser'
  | 'downlifter'
  | 'impact'
  | 'texture'
  | 'single'
  | 'mix'
  | 'tones';

export interface FileSpec {
  /** Path inside the pack, with ending. */
  readonly path: string;
  readonly format: AudioFormat | 'midi';
  readonly player: Player;
  readonly truth: Truth;
  readonly scale: Scale;
  /** Which progression and which pattern. */
  readonly progression: number;
  readonly pattern: number;
  readonly swing: number;
  /** How far the player's time strays from the even grid, there and back once over the loop, ms. */
  readonly wanderMs?: number;
  readonly tone: number;
  readonly wet: number;
  readonly drive: number;
  readonly mono?: boolean;
  readonly rateHz?: 44100 | 48000;
  readonly trouble: Trouble;
  /** For single hits: MIDI note or drum key. */
  readonly note?: number;
  readonly heldSeconds?: number;
}

/** Files that are no sound, or broken ones; as bytes they are made of. */
export interface StrayFile {
  readonly path: string;
  readonly kind: 'text' | 'junk' | 'truncated' | 'zero' | 'foreign';
  readonly text?: string;
}

export interface PackSpec {
  readonly slug: string;
  readonly name: string;
  readonly vendor: string;
  readonly licence: string;
  readonly description: string;
  readonly files: readonly FileSpec[];
  readonly strays: readonly StrayFile[];
  /** A second name for the same bytes: [copy, original]. */
  readonly duplicates: readonly (readonly [string, string])[];
}
