import { playedAs } from '../../theory/instruments';
import { framesPerBeat, beatsPerBar, projectRateHz } from '../../units/time';
import type { FitRequest } from '../fit-request';
import { keyAt, type Harmonic } from '../harmony/harmony';
import type { Clip, Project } from '../tree';
import { followChords } from './follow-chords';
import { movedToKey } from './move-to-key';
import type { Pattern, SoundingNote } from './pattern';
import { patternRequest } from './one-note';

type Piece = Pick<Project, 'tempoBpm'> & Partial<Pick<Project, 'meter'>> & Harmonic;

/** Beats of a bar; four where no meter is known. */
const barOf = ({ meter }: Piece): number => beatsPerBar(meter ?? '4/4');

const lowest = 0,
  highest = 127;

/**
 * The notes that a clip plays of a pattern, in beats of the piece: each repetition anew, moved with key and chords where the clip follows them, none
 * longer than the clip. Drums are never moved.
 */
export function notesOfClip(clip: Clip, pattern: Pattern, piece: Piece): SoundingNote[] {
  const end = clip.startBeat + clip.lengthBeats,
    out: SoundingNote[] = [];
  for (let cycle = clip.startBeat - clip.offsetBeats; cycle < end - 1e-6; cycle += pattern.lengthBeats) {
    if (cycle + pattern.lengthBeats <= clip.startBeat + 1e-6) continue;
    const placed = pattern.notes.flatMap((note): SoundingNote[] => {
      const startBeat = cycle + note.startBeat;
      return note.startBeat < pattern.lengthBeats - 1e-6 && startBeat >= clip.startBeat - 1e-6 && startBeat < end - 1e-6
        ? [{ startBeat, lengthBeats: Math.min(note.lengthBeats, end - startBeat), pitch: note.pitch, velocity: note.velocity }]
        : [];
    });
    out.push(...(pattern.isDrums ? placed : belonging(placed, clip, pattern, piece, cycle)));
  }
  return out
    .map((note) => (pattern.isDrums ? note : { ...note, pitch: note.pitch + Math.round(clip.shiftSemitones) }))
    .filter(({ pitch }) => pitch >= lowest && pitch <= highest)
    .sort((a, b) => a.startBeat - b.startBeat || a.pitch - b.pitch);
}

/** Notes of one repetition as the piece wants them: over its chords where the clip follows those, else in its key. */
function belonging(notes: readonly SoundingNote[], clip: Clip, pattern: Pattern, piece: Piece, cycleBeat: number): readonly SoundingNote[] {
  if (clip.chordWay !== null && (piece.chords ?? []).length > 0)
    return followChords(notes, {
      writtenKey: pattern.key,
      writtenChords: pattern.chords.map(({ startBeat, symbol }) => ({ startBeat: startBeat + cycleBeat, symbol })),
      wanted: piece,
      instrument: clip.overrides.instrument ?? pattern.instrument,
      barBeats: barOf(piece),
      originBeat: cycleBeat,
    });
  if (!clip.followKey || !pattern.key) return notes;
  const written = pattern.key;
  return notes.map((note) => {
    const key = keyAt(piece, note.startBeat);
    return key ? { ...note, pitch: movedToKey(note.pitch, written, key) } : note;
  });
}

/** A bar's worth of a clip's notes that is rendered by itself. */
export interface NotesPart {
  readonly startBeat: number;
  readonly request: FitRequest;
}

/**
 * A clip of notes in bars: each is rendered by itself and rings out over the next, so that equal bars are rendered once, and a changed note asks for
 * its own bar alone.
 */
export function planNotes(clip: Clip, pattern: Pattern, piece: Piece): NotesPart[] {
  const beatFrames = framesPerBeat(piece.tempoBpm, projectRateHz),
    instrument = pattern.isDrums ? null : playedAs(clip.overrides.instrument ?? pattern.instrument),
    bars = apart(notesOfClip(clip, pattern, piece), barOf(piece)),
    parts = bars.flatMap((part) => (part.notes.length > mostTogether ? apart(part.notes, 1) : [part]));
  return parts.map(({ startBeat, notes }) => {
    const noteRows = notes.flatMap((note) => [
      Math.max(0, Math.round((note.startBeat - startBeat) * beatFrames)),
      Math.max(1, Math.round(note.lengthBeats * beatFrames)),
      note.pitch,
      note.velocity,
    ]);
    let last = 0;
    for (let row = 0; row < noteRows.length; row += 4) last = Math.max(last, noteRows[row] + noteRows[row + 1]);
    return { startBeat, request: patternRequest(noteRows, last, instrument, pattern.isDrums) };
  });
}

/** A bar of more notes than this is rendered beat by beat, so that a changed note is heard soon there too. */
const mostTogether = 24;

/** Notes by the stretches of so many beats in which they begin. */
function apart(notes: readonly SoundingNote[], beats: number): { readonly startBeat: number; readonly notes: readonly SoundingNote[] }[] {
  const found = new Map<number, SoundingNote[]>();
  for (const note of notes) {
    const at = Math.floor(note.startBeat / beats + 1e-6),
      there = found.get(at);
    if (there) there.push(note);
    else found.set(at, [note]);
  }
  return [...found].map(([at, those]) => ({ startBeat: at * beats, notes: those }));
}
