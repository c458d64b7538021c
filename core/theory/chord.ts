import { Chord, Note } from 'tonal';
import { keptByKey } from '../kept/kept';
import { pitchClass } from '../units/pitch';
import { pitchName } from './spelling';
import type { Key } from './key';

/** What a chord symbol says, in pitch classes. */
export interface ChordTones {
  readonly root: number;
  /** The lowest note: that behind a slash, else the root. */
  readonly bass: number;
  /** Root first; a bass of its own is among them. */
  readonly classes: readonly number[];
  /** Whether its third is minor or major; null for what has none, or both. */
  readonly third: 'minor' | 'major' | null;
}

/** Says that no chord sounds from here on (common practice). */
export const noChord = 'N.C.';

const plainAccidentals = (text: string): string => text.replaceAll('♯', '#').replaceAll('♭', 'b');

/** Reads a chord symbol by `tonal`: `Dm7`, `F♯m7b5`, `B♭/D`. @returns null for what is no chord  @example readChord('Dm/G') // => root 2, bass 7 */
export const readChord = keptByKey((symbol: string): ChordTones | null => {
  const chord = Chord.get(plainAccidentals(symbol));
  if (chord.empty || !chord.tonic) return null;
  const chromaOf = (note: string) => pitchClass(Note.chroma(note) ?? 0),
    root = chromaOf(chord.tonic),
    bass = chord.bass ? chromaOf(chord.bass) : root,
    others = chord.notes.map(chromaOf).filter((each) => each !== root),
    has = (interval: number) => others.includes(pitchClass(root + interval));
  return {
    root,
    bass,
    classes: [root, ...new Set(others)],
    third: has(3) === has(4) ? null : has(3) ? 'minor' : 'major',
  };
});

/** Pitch classes of a chord symbol, root first. @returns null for what is no chord  @example chordPitchClasses('Dm7') // => [2, 5, 9, 0] */
export const chordPitchClasses = (symbol: string): readonly number[] | null => readChord(symbol)?.classes ?? null;

/** A symbol in its parts: what its root and bass are called, and what stands between. */
const parts = /^([A-G](?:#|b|♯|♭)*)(.*?)(?:\/([A-G](?:#|b|♯|♭)*))?$/;

/** A chord so many semitones higher, spelled as a key spells it. @example transposeChord('Dm/G', 2, null) // => 'Em/A' */
export function transposeChord(symbol: string, semitones: number, key: Key | null): string {
  const found = parts.exec(symbol);
  if (!found || !readChord(symbol)) return symbol;
  const moved = (note: string) => pitchName((Note.chroma(plainAccidentals(note)) ?? 0) + semitones, key);
  return `${moved(found[1])}${found[2]}${found[3] ? `/${moved(found[3])}` : ''}`;
}

/** A triad by its symbol. @example triadSymbol({ root: 2, minor: true }, null) // => 'Dm' */
export const triadSymbol = ({ root, minor }: { readonly root: number; readonly minor: boolean }, key: Key | null): string =>
  `${pitchName(root, key)}${minor ? 'm' : ''}`;
