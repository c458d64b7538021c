import type { Family } from '../core/theory/instruments';
import type { Key } from '../core/theory/key';
import type { Finish } from './material/finish';
import type { VendorName } from './material/names';
import { pieceSeconds, quarterBpm, quartersPerBar, type ChordSpan, type KeyStatus, type Piece } from './material/piece';

/** What is true of a file. Field names are those of the outside development set, so that one scorer serves both. */
export interface Truth {
  readonly file: string;
  readonly style: string;
  readonly family: Family;
  readonly instrument: string;
  readonly isLoop: boolean;
  readonly loopScored?: boolean;
  readonly tempo: number | null;
  readonly tempoAlts?: readonly number[];
  readonly tempoScored: boolean;
  readonly bars: number | null;
  readonly beats: number | null;
  readonly meter: string | null;
  readonly key: Key | null;
  readonly keyStatus: KeyStatus;
  readonly tuningCents: number;
  readonly lengthSec: number;
  readonly musicSec: number | null;
  readonly leadSec: number;
  readonly endDeltaSec: number;
  readonly chords?: readonly ChordSpan[];
  /** Of one voice that sounds one note at a time: start and length in seconds of the file, MIDI note. */
  readonly melody?: readonly (readonly [startSeconds: number, lengthSeconds: number, note: number])[];
  readonly cond: readonly string[];
  readonly packName: string;
  readonly packPath: string;
}

/** A part in which no note overlaps the next by more than a player's legato. */
function melodyOf(piece: Piece, leadSeconds: number): Truth['melody'] {
  const [part] = piece.parts,
    notes = [...part.notes].sort((a, b) => a.startBeat - b.startBeat),
    quarterSeconds = 60 / quarterBpm(piece);
  if (!piece.isLoop || piece.parts.length > 1 || notes.length < 2 || notes[0].channel === 9) return undefined;
  if (notes.some((note, k) => k > 0 && notes[k - 1].startBeat + notes[k - 1].lengthBeats > note.startBeat + 0.08)) return undefined;
  return notes.map(
    ({ startBeat, lengthBeats, pitch }) => [leadSeconds + startBeat * quarterSeconds, lengthBeats * quarterSeconds, pitch] as const,
  );
}

export function truthOf(
  file: string,
  piece: Piece,
  done: Finish,
  cents: number,
  sources: readonly string[],
  name: VendorName,
  family: Family,
): Truth {
  const perBar = piece.meter === '6/8' ? 2 : quartersPerBar(piece.meter);
  return {
    file,
    style: piece.style,
    family,
    instrument: piece.instrument,
    isLoop: piece.isLoop,
    tempo: piece.isLoop ? piece.tempoBpm : null,
    ...(piece.meter === '6/8' && { tempoAlts: [piece.tempoBpm * 1.5, piece.tempoBpm * 3] }),
    tempoScored: piece.isLoop && piece.tempoHeard,
    bars: piece.isLoop ? piece.bars : null,
    beats: piece.isLoop ? piece.bars * perBar : null,
    meter: piece.isLoop ? piece.meter : null,
    key: piece.key,
    keyStatus: piece.keyStatus,
    tuningCents: cents,
    lengthSec: done.sound[0].length / 44100,
    musicSec: piece.isLoop ? pieceSeconds(piece) : null,
    leadSec: done.leadSeconds,
    endDeltaSec: done.endDeltaSeconds,
    chords: piece.chords,
    melody: melodyOf(piece, done.leadSeconds),
    cond: [
      ...done.conditions,
      ...sources.map((source) => (source.startsWith('sf:') ? source : `src:${source}`)),
      ...(cents ? ['detuned'] : []),
    ],
    packName: name.name,
    packPath: name.folder,
  };
}
