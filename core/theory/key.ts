import { pitchClass, semitonesPerOctave } from '../units/pitch';

export type Mode = 'major' | 'minor';

/** The church modes besides major (ionian) and minor (aeolian). */
export type ChurchMode = 'dorian' | 'phrygian' | 'lydian' | 'mixolydian' | 'locrian';

/**
 * A key: its tonic as a pitch class 0–11, C = 0, and whether its third is major or minor; of the church modes dorian, phrygian and locrian count as
 * minor. Loops are told in major or minor; a piece may say its church mode too.
 */
export interface Key {
  readonly tonic: number;
  readonly mode: Mode;
  readonly church?: ChurchMode;
}

/** Church modes with the third by which they count as major or minor, from the brightest. */
export const churchModes: readonly { readonly church: ChurchMode; readonly mode: Mode }[] = [
  { church: 'lydian', mode: 'major' },
  { church: 'mixolydian', mode: 'major' },
  { church: 'dorian', mode: 'minor' },
  { church: 'phrygian', mode: 'minor' },
  { church: 'locrian', mode: 'minor' },
];

/** The scale of a key by its name. */
export const scaleNameOf = ({ mode, church }: Pick<Key, 'mode' | 'church'>): Mode | ChurchMode => church ?? mode;

const sharpNames = ['C', 'C♯', 'D', 'D♯', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'A♯', 'B'];
/** The spelling a musician expects for each tonic (fewest accidentals in the signature). */
const majorNames = ['C', 'D♭', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'A♭', 'A', 'B♭', 'B'];
const minorNames = ['C', 'C♯', 'D', 'E♭', 'E', 'F', 'F♯', 'G', 'G♯', 'A', 'B♭', 'B'];
const letterClass: Readonly<Record<string, number>> = { C: 0, D: 2, E: 4, F: 5, G: 7, A: 9, B: 11 };

/** `D minor`, `F♯ major`, `E dorian`. */
export function keyName(key: Key): string {
  return `${tonicName(key)} ${scaleNameOf(key)}`;
}

/** The tonic of a key as its signature spells it. */
export const tonicName = (key: Key): string => (key.mode === 'major' ? majorNames : minorNames)[key.tonic];

/** A pitch class by itself, in sharps. */
export function pitchClassName(pitch: number): string {
  return sharpNames[pitchClass(pitch)];
}

/** A note with its octave: MIDI note 60 is C4 (common practice; some count it C3). */
export const noteName = (note: number): string => `${pitchClassName(note)}${Math.floor(note / semitonesPerOctave) - 1}`;

/** The 24 keys of major and minor: major first, each from C upwards. */
export const allKeys: readonly Key[] = (['major', 'minor'] as const).flatMap((mode) =>
  Array.from({ length: semitonesPerOctave }, (_, tonic) => ({ tonic, mode })),
);

/** Whether two keys are one, or both are none. Relative keys are not the same. */
export function sameKey(a: Key | null, b: Key | null): boolean {
  return a === b || (a != null && b != null && a.tonic === b.tonic && scaleNameOf(a) === scaleNameOf(b));
}

const modeWords: Readonly<Record<string, Mode>> = {
  '': 'major',
  maj: 'major',
  major: 'major',
  ionian: 'major',
  lydian: 'major',
  mixolydian: 'major',
  m: 'minor',
  min: 'minor',
  minor: 'minor',
  aeolian: 'minor',
  dorian: 'minor',
  phrygian: 'minor',
};

/** Reads a key in the common spellings: `Dm`, `F# minor`, `Bbmaj`, `D dorian`, `f♯min`. @returns null if it is none */
export function parseKey(text: string): Key | null {
  const match =
    /^\s*([A-Ga-g])\s*(#|♯|b|♭|sharp|flat)?[\s_-]*(m|maj|min|major|minor|dorian|phrygian|lydian|mixolydian|aeolian|ionian|M)?\s*$/.exec(
      text,
    );
  if (!match) return null;
  const accidental = match[2] === undefined ? 0 : /#|♯|sharp/.test(match[2]) ? 1 : -1;
  const word = match[3] === 'M' ? 'maj' : (match[3] ?? '').toLowerCase();
  return { tonic: pitchClass(letterClass[match[1].toUpperCase()] + accidental), mode: modeWords[word] };
}

/** The code of a key in addresses and forms: tonic 0–11, then `m` or `M`, or the name of its church mode. @example keyCode(D minor) // => '2m' */
export const keyCode = (key: Key): string => `${key.tonic}${key.church ?? (key.mode === 'minor' ? 'm' : 'M')}`;

/** Reads such a code. @returns null for what is none */
export function parseKeyCode(code: string): Key | null {
  const match = /^(\d|1[01])([a-zM]+)$/.exec(code);
  if (!match) return null;
  const tonic = Number(match[1]),
    church = churchModes.find((each) => each.church === match[2]);
  if (church) return { tonic, ...church };
  return match[2] === 'm' ? { tonic, mode: 'minor' } : match[2] === 'M' ? { tonic, mode: 'major' } : null;
}

/** Moves a key by semitones. */
export function transposeKey(key: Key, semitones: number): Key {
  return { ...key, tonic: pitchClass(key.tonic + semitones) };
}

/** The key with the same notes and the other mode. @example relativeKey(C major) // => A minor */
export function relativeKey(key: Key): Key {
  return key.mode === 'major' ? { tonic: pitchClass(key.tonic + 9), mode: 'minor' } : { tonic: pitchClass(key.tonic + 3), mode: 'major' };
}

/** Shortest way between two tonics: −5 … +6. @example shortestShift(10, 2) // => 4 */
export function shortestShift(fromTonic: number, toTonic: number): number {
  const up = pitchClass(toTonic - fromTonic);
  return up > 6 ? up - semitonesPerOctave : up;
}

/**
 * Semitones that bring a loop into the project's key. A relative major or minor needs none; of a loop in the other
 * mode the relative key is what must agree.
 */
export function shiftToKey(loopKey: Key, projectKey: Key): number {
  const target = loopKey.mode === projectKey.mode ? projectKey : relativeKey(projectKey);
  return shortestShift(loopKey.tonic, target.tonic);
}

/** Place on the circle of fifths, 0 = C major / A minor, clockwise by fifths, 0–11. */
export function fifthsPosition(key: Key): number {
  const major = key.mode === 'major' ? key.tonic : relativeKey(key).tonic;
  return (major * 7) % semitonesPerOctave;
}
