import { chordOfDegree } from './degrees';
import { noChord } from './chord';
import type { Key } from './key';

/** Chords that often follow each other, as degrees, one a bar. */
export interface Progression {
  readonly id: string;
  /** Where it is met (common practice). */
  readonly label: string;
  readonly mode: 'major' | 'minor';
  readonly degrees: readonly string[];
}

const row = (mode: Progression['mode'], degrees: string, label: string): Progression => ({
  id: `${mode} ${degrees}`,
  label,
  mode,
  degrees: degrees.split(' '),
});

/** Progressions that any handbook of harmony knows (from memory), for keys of either mode. */
export const progressions: readonly Progression[] = [
  row('major', 'I V vi IV', 'four chords of many songs'),
  row('major', 'I vi IV V', 'slow dances'),
  row('major', 'vi IV I V', 'the same, from its sad end'),
  row('major', 'I IV V I', 'the cadence'),
  row('major', 'ii7 V7 Imaj7 Imaj7', 'two, five, one'),
  row('major', 'I V vi iii IV I IV V', 'over a falling bass'),
  row('major', 'I7 I7 I7 I7 IV7 IV7 I7 I7 V7 IV7 I7 V7', 'blues, 12 bars'),
  row('major', 'I ♭VII IV I', 'with the lowered seventh'),
  row('minor', 'i VI III VII', 'the minor relative of four chords'),
  row('minor', 'i iv V7 i', 'the cadence in minor'),
  row('minor', 'i VII VI V', 'down to the dominant'),
  row('minor', 'i VI iv V', 'dark and leading home'),
  row('minor', 'i VII VI VII', 'to and fro'),
  row('minor', 'ii°7 V7 i i', 'two, five, one in minor'),
  row('minor', 'i7 i7 i7 i7 iv7 iv7 i7 i7 VI7 V7 i7 V7', 'blues in minor, 12 bars'),
];

/** The chords of a progression in a key. */
export const chordsOfProgression = ({ degrees }: Pick<Progression, 'degrees'>, key: Key): string[] =>
  degrees.map((degree) => chordOfDegree(degree, key) ?? noChord);

/** Degrees as one types them, parted by spaces, bars or hyphens. @returns the first that is none where there is one */
export function parseDegrees(text: string, key: Key): { readonly chords: readonly string[] } | { readonly wrong: string } {
  const words = text.split(/[\s|–,-]+/).filter(Boolean),
    chords: string[] = [];
  for (const word of words) {
    const chord = chordOfDegree(word, key);
    if (chord === null) return { wrong: word };
    chords.push(chord);
  }
  return { chords };
}
