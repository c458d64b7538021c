import { Chord, Note } from 'tonal';
import { pitchClass } from '../units/pitch';

/** Pitch classes of a chord symbol, root first. @returns null for what is no chord  @example chordPitchClasses('Dm7') // => [2, 5, 9, 0] */
export function chordPitchClasses(symbol: string): readonly number[] | null {
  const chord = Chord.get(symbol.replaceAll('♯', '#').replaceAll('♭', 'b'));
  if (chord.empty || chord.tonic == null) return null;
  return chord.notes.map((note) => pitchClass(Note.chroma(note) ?? 0));
}
