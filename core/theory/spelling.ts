import { Note, Scale } from 'tonal';
import { keptByKey } from '../kept/kept';
import { pitchClass } from '../units/pitch';
import { fifthsPosition, keyCode, parseKeyCode, pitchClassName, scaleNameOf, tonicName, type Key } from './key';

const flatNames = ['C', 'D♭', 'D', 'E♭', 'E', 'F', 'G♭', 'G', 'A♭', 'A', 'B♭', 'B'];

const prettyAccidentals = (text: string): string => text.replaceAll('#', '♯').replaceAll('b', '♭');

/** Names of the twelve pitch classes in a key: of its scale as its signature spells them, the others by its side of the circle of fifths. */
const namesIn = keptByKey((code: string): readonly string[] => {
  const key = parseKeyCode(code) as Key,
    others = fifthsPosition(key) > 6 ? flatNames : Array.from({ length: 12 }, (_, pitch) => pitchClassName(pitch)),
    names = [...others];
  for (const note of Scale.get(`${tonicName(key).replace('♯', '#').replace('♭', 'b')} ${scaleNameOf(key)}`).notes)
    // A double accidental is right and reads badly.
    if (note.length <= 2) names[pitchClass(Note.chroma(note) ?? 0)] = prettyAccidentals(note);
  return names;
});

/** A pitch class as a key spells it, in sharps where there is none. @example pitchName(10, { tonic: 2, mode: 'minor' }) // => 'B♭' */
export const pitchName = (pitch: number, key: Key | null): string =>
  key ? namesIn(keyCode(key))[pitchClass(pitch)] : pitchClassName(pitch);
