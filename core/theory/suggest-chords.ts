import { isChordSymbol } from './chord-line';
import { chordOfDegree } from './degrees';
import type { Key } from './key';

const kinds = [
  '',
  'm',
  '7',
  'm7',
  'maj7',
  'sus4',
  'sus2',
  '6',
  'm6',
  '9',
  'm9',
  'maj9',
  'add9',
  'dim',
  'dim7',
  'm7b5',
  'aug',
  '7sus4',
  '5',
];
const roots = ['C', 'C♯', 'D♭', 'D', 'E♭', 'E', 'F', 'F♯', 'G♭', 'G', 'A♭', 'A', 'B♭', 'B'];
const degreesOf = { major: ['I', 'ii', 'iii', 'IV', 'V', 'vi', 'vii°'], minor: ['i', 'ii°', 'III', 'iv', 'v', 'VI', 'VII', 'V'] } as const;

/** The seven triads of a key, in minor with the major fifth step too. */
export const homeChords = (key: Key): string[] => degreesOf[key.mode].flatMap((degree) => chordOfDegree(degree, key) ?? []);

const easy = (text: string): string => text.toLowerCase().replaceAll('♯', '#').replaceAll('♭', 'b');

/**
 * How a chord that is being typed may go on: what is at home in the key first, then the plainest. With a slash: over each root.
 * @param most how many at the most
 */
export function suggestChords(text: string, key: Key | null, most = 12): string[] {
  const [chord, bass] = text.trim().split('/'),
    typed = easy(text.trim());
  if (bass !== undefined)
    return isChordSymbol(chord)
      ? roots
          .map((root) => `${chord}/${root}`)
          .filter((each) => easy(each).startsWith(typed))
          .slice(0, most)
      : [];
  const home = key ? homeChords(key) : [],
    all = [...home, ...kinds.flatMap((kind) => roots.map((root) => `${root}${kind}`))];
  return [...new Set(all.filter((each) => easy(each).startsWith(typed)))].slice(0, most);
}
