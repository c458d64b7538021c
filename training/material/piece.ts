import type { Key } from '../../core/theory/key';
import type { Note } from '../../core/formats/smf/parse';

/** What sounds: notes played by one instrument from one source. Drum notes use General MIDI percussion keys (RP-003) and channel 9. */
export interface Part {
  /** Id of `core/theory/instruments`. */
  readonly instrument: string;
  readonly notes: readonly Note[];
  readonly gain: number;
}

export interface ChordSpan {
  readonly startBeat: number;
  readonly lengthBeats: number;
  readonly root: number;
  readonly intervals: readonly number[];
}

/** How sure a listener could be of the key from the notes alone; `none`: tuned, and in no single key. */
export type KeyStatus = 'clear' | 'ambiguous' | 'modal' | 'tonicOnly' | 'atonal' | 'none';

/** Meters that nothing is taught of but that they are none of the usual ones. */
export type OddMeter = '5/4' | '7/4' | '7/8' | '5/8' | '9/8' | '11/8';

/** A composed piece with its truth; `startBeat`s of notes are quarter notes. */
export interface Piece {
  readonly style: string;
  readonly instrument: string;
  readonly isLoop: boolean;
  readonly parts: readonly Part[];
  /** Beats of the meter a minute: dotted quarters in 6/8, quarters in odd meters. */
  readonly tempoBpm: number;
  readonly meter: '4/4' | '3/4' | '6/8' | OddMeter;
  readonly bars: number;
  readonly key: Key | null;
  readonly keyStatus: KeyStatus;
  readonly chords: readonly ChordSpan[];
  /** Whether anything but the length tells the tempo. */
  readonly tempoHeard: boolean;
}

const barQuarters = { '4/4': 4, '3/4': 3, '6/8': 3, '5/4': 5, '7/4': 7, '7/8': 3.5, '5/8': 2.5, '9/8': 4.5, '11/8': 5.5 } as const;
export const quartersPerBar = (meter: Piece['meter']): number => barQuarters[meter];
export const quarterBpm = (piece: Pick<Piece, 'meter' | 'tempoBpm'>): number =>
  piece.meter === '6/8' ? piece.tempoBpm * 1.5 : piece.tempoBpm;
export const pieceSeconds = (piece: Piece): number => (piece.bars * quartersPerBar(piece.meter) * 60) / quarterBpm(piece);
