import type { PlacedChord } from '../../theory/chord-line';
import type { Key } from '../../theory/key';

/** A note of a pattern, in beats of the project from the pattern's start. */
export interface PatternNote {
  readonly id: string;
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** MIDI note; of drums the General MIDI percussion key. */
  readonly pitch: number;
  /** 1–127. */
  readonly velocity: number;
}

/** A note as it sounds: where in the piece, and what. */
export type SoundingNote = Omit<PatternNote, 'id'>;

/** Notes of a project that clips play, round and round: what is changed in it is changed in all of them. */
export interface Pattern {
  readonly kind: 'pattern';
  readonly id: string;
  readonly name: string;
  readonly lengthBeats: number;
  readonly notes: readonly PatternNote[];
  /** Played by the kit: never moved in pitch. */
  readonly isDrums: boolean;
  /** Which of our instruments plays it where a clip names no other; null: the plain one. */
  readonly instrument: string | null;
  /** In which key it is written; null: in none, and no key moves it. */
  readonly key: Key | null;
  /** Over which chords it is written, from its start; empty: over the tonic chord of its key. */
  readonly chords: readonly PlacedChord[];
  /** The library's loop whose notes it was made of; its licence goes with it. */
  readonly fromLoopId: number | null;
}

export const mostPatternNotes = 10_000,
  mostPatternBeats = 4096;

/** Notes in the order in which they are played: by beat, from low to high. */
export const inPlayingOrder = (notes: readonly PatternNote[]): PatternNote[] =>
  [...notes].sort((a, b) => a.startBeat - b.startBeat || a.pitch - b.pitch || (a.id < b.id ? -1 : 1));
