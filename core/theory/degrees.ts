import { pitchClass } from '../units/pitch';
import { readChord, type ChordTones } from './chord';
import { pitchName } from './spelling';
import type { Key } from './key';
import { scaleClasses, scaleSemitones } from './scale';

const numerals = ['I', 'II', 'III', 'IV', 'V', 'VI', 'VII'];

/** The step of a key on which a pitch lies, from 0, with what it is raised (♯) or lowered (♭) by. */
function stepOf(pitch: number, key: Key): { readonly step: number; readonly sign: '' | '♭' | '♯' } {
  const scale = scaleClasses(key),
    at = scale.indexOf(pitchClass(pitch));
  if (at >= 0) return { step: at, sign: '' };
  // What lies between two steps is the upper one lowered, but for the raised fourth (common practice).
  const above = scale.indexOf(pitchClass(pitch + 1)),
    below = scale.indexOf(pitchClass(pitch - 1));
  if (below === 3 || above < 0) return { step: below, sign: '♯' };
  // In minor the raised seventh leads home.
  if (above === 0) return { step: below, sign: '♯' };
  return { step: above, sign: '♭' };
}

/**
 * A chord as a degree of a key: upper case for major, lower for minor (common practice). @returns null for what is no chord
 * @example degreeOf('Gm7', { tonic: 2, mode: 'minor' }) // => 'iv7'
 */
export function degreeOf(symbol: string, key: Key): string | null {
  const chord = readChord(symbol);
  if (!chord) return null;
  const { step, sign } = stepOf(chord.root, key),
    numeral = chord.third === 'minor' ? numerals[step].toLowerCase() : numerals[step],
    fifth = pitchClass(chord.root + 6),
    isDiminished = chord.third === 'minor' && chord.classes.includes(fifth) && !chord.classes.includes(pitchClass(chord.root + 7)),
    isAugmented =
      chord.third === 'major' && chord.classes.includes(pitchClass(chord.root + 8)) && !chord.classes.includes(pitchClass(chord.root + 7)),
    seventh = chord.classes.includes(pitchClass(chord.root + 11)) ? 'maj7' : chord.classes.includes(pitchClass(chord.root + 10)) ? '7' : '';
  return `${sign}${numeral}${isDiminished ? '°' : isAugmented ? '+' : ''}${seventh}`;
}

const degreeShape = /^([♭b♯#]?)([IViv]+)(°|dim|\+)?(maj7|7|m7|sus2|sus4|6)?$/;

/**
 * The chord of a degree in a key: what `degreeOf` writes; `♭VII` counts from the scale of the key.
 * @returns null for what is no degree  @example chordOfDegree('V7', { tonic: 2, mode: 'minor' }) // => 'A7'
 */
export function chordOfDegree(degree: string, key: Key): string | null {
  const found = degreeShape.exec(degree),
    step = found ? numerals.indexOf(found[2].toUpperCase()) : -1;
  if (!found || step < 0) return null;
  const sign = found[1] === '' ? 0 : /[♭b]/.test(found[1]) ? -1 : 1,
    root = pitchName(scaleClasses(key)[step] + sign, key),
    isMinor = found[2] === found[2].toLowerCase(),
    kind = found[3] === '+' ? 'aug' : found[3] ? 'dim' : isMinor ? 'm' : '';
  return `${root}${kind}${found[4] ?? ''}`;
}

/** How a chord stands to a key: of its scale; taken from another on the same tonic, or leading to one of its chords; or neither. */
export type Belonging = 'belongs' | 'borrowed' | 'outside';

/** What each says to who has no theory. */
export const belongingWords: Readonly<Record<Belonging, { readonly label: string; readonly says: string }>> = {
  belongs: { label: 'belongs', says: 'all its notes are of the key: it is at home' },
  borrowed: { label: 'borrowed', says: 'from a related key: it colours, and wants to go on' },
  outside: { label: 'outside', says: 'from elsewhere: a surprise, or a mistake' },
};

const within = (chord: ChordTones, classes: ReadonlySet<number>): boolean => chord.classes.every((each) => classes.has(each));

/** Which of these a chord is in a key (common practice: parallel modes, and the dominant of a step, are what is borrowed from). */
export function belongingOf(symbol: string, key: Key): Belonging | null {
  const chord = readChord(symbol);
  if (!chord) return null;
  const scale = scaleClasses(key),
    own = new Set(scale);
  if (within(chord, own)) return 'belongs';
  // In minor the seventh is raised in the chords that lead home.
  if (key.mode === 'minor' && !key.church && [7, 11].includes(pitchClass(chord.root - key.tonic))) {
    const raised = new Set([...scale.slice(0, 6), pitchClass(key.tonic + 11), pitchClass(key.tonic + 10)]);
    if (chord.classes.includes(pitchClass(key.tonic + 11)) && within(chord, raised)) return 'belongs';
  }
  const parallels = (['major', 'minor', 'dorian', 'phrygian', 'lydian', 'mixolydian'] as const).map(
    (name) => new Set(scaleSemitones(name).map((step) => pitchClass(step + key.tonic))),
  );
  if (parallels.some((each) => within(chord, each))) return 'borrowed';
  const isDominant = chord.third === 'major' && chord.classes.includes(pitchClass(chord.root + 7)),
    goal = pitchClass(chord.root + 5);
  return isDominant && own.has(goal) && goal !== key.tonic ? 'borrowed' : 'outside';
}
