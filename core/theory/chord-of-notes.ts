import { Chord } from 'tonal';
import { pitchClass } from '../units/pitch';
import { chordPitchClasses, readChord } from './chord';
import { pitchClassName, type Key } from './key';
import { pitchName } from './spelling';

/**
 * The chord that notes make, by `tonal`, spelled as a key spells it, with its bass where that is not the root; null for what is none.
 * @param notes MIDI notes, in any order
 * @example chordOfNotes([62, 65, 69], null) // => 'Dm'
 */
export function chordOfNotes(notes: readonly number[], key: Key | null): string | null {
  if (notes.length < 2) return null;
  const names = [...notes].sort((a, b) => a - b).map((note) => pitchClassName(note).replace('♯', '#')),
    classes = new Set(notes.map(pitchClass));
  for (const found of Chord.detect(names)) {
    const [symbol, bass] = found.split('/'),
      read = readChord(symbol);
    if (!read) continue;
    const rest = /^[A-G]#?b?(.*)$/.exec(symbol)?.[1] ?? '',
      plain = rest === 'M' ? '' : rest.replace(/^M7/, 'maj7'),
      written = `${pitchName(read.root, key)}${plain}${bass ? `/${pitchName(notes.map(pitchClass)[notes.indexOf(Math.min(...notes))], key)}` : ''}`;
    if (chordPitchClasses(written)?.every((each) => classes.has(each))) return written;
  }
  return null;
}
