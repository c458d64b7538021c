import { pitchClass } from '../../core/units/pitch';
import type { Key } from '../../core/theory/key';

/** A chord as pitch classes, root first, with how long it lasts. */
export interface ChordSpan {
  readonly root: number;
  readonly intervals: readonly number[];
  readonly startBeat: number;
  readonly lengthBeats: number;
}

/** Degrees as [semitones above the tonic, intervals]. */
const minor = {
  i: [0, [0, 3, 7]],
  i7: [0, [0, 3, 7, 10]],
  i9: [0, [0, 3, 7, 10, 14]],
  iv: [5, [0, 3, 7]],
  iv7: [5, [0, 3, 7, 10]],
  v: [7, [0, 3, 7, 10]],
  V: [7, [0, 4, 7, 10]],
  III: [3, [0, 4, 7]],
  VI: [8, [0, 4, 7]],
  VI7: [8, [0, 4, 7, 11]],
  VII: [10, [0, 4, 7]],
  IV: [5, [0, 4, 7, 10]],
} as const;
const major = {
  I: [0, [0, 4, 7]],
  I7: [0, [0, 4, 7, 11]],
  ii: [2, [0, 3, 7, 10]],
  iii: [4, [0, 3, 7]],
  IV: [5, [0, 4, 7]],
  IV7: [5, [0, 4, 7, 11]],
  V: [7, [0, 4, 7]],
  V7: [7, [0, 4, 7, 10]],
  vi: [9, [0, 3, 7]],
  vi7: [9, [0, 3, 7, 10]],
} as const;

export const progressions = {
  minor: ['i VI III VII', 'i iv VII III', 'i7 iv7 i7 v', 'i9 VI7 iv7 V', 'i VII VI VII', 'i iv i V'],
  dorian: ['i7 IV', 'i7 IV i7 v', 'i IV VII i'],
  major: ['I vi IV V', 'I7 vi7 ii V7', 'I V vi IV', 'I7 IV7', 'I IV ii V7', 'I iii IV V'],
} as const;

export type Scale = keyof typeof progressions;

/** A progression spread over the bars of a loop: a chord a bar, or two when there are more chords than bars. */
export function chordsOf(key: Key, scale: Scale, index: number, bars: number, barBeats: number): ChordSpan[] {
  const list = progressions[scale][index % progressions[scale].length].split(' ');
  const table: Readonly<Record<string, readonly [number, readonly number[]]>> = scale === 'major' ? major : minor;
  const perBar = list.length > bars ? 2 : 1,
    count = bars * perBar,
    length = barBeats / perBar;
  return Array.from({ length: count }, (_, n) => {
    const [offset, intervals] = table[list[n % list.length]];
    return { root: pitchClass(key.tonic + offset), intervals, startBeat: n * length, lengthBeats: length };
  });
}

/** Notes of a chord near `centre`, moving as little as possible from the voicing before. */
export function voiceChord(chord: ChordSpan, centre: number, before: readonly number[] | null): number[] {
  const options: number[][] = [];
  for (let inversion = 0; inversion < chord.intervals.length; inversion++)
    for (let octave = -1; octave <= 1; octave++) {
      const base = chord.root + 12 * (Math.floor(centre / 12) + octave);
      options.push(chord.intervals.map((interval, k) => base + (interval % 12) + (k < inversion ? 12 : 0)).sort((a, b) => a - b));
    }
  const mean = (notes: readonly number[]) => notes.reduce((a, b) => a + b, 0) / notes.length;
  const cost = (notes: readonly number[]) =>
    (before ? notes.reduce((sum, note) => sum + Math.min(...before.map((other) => Math.abs(other - note))), 0) : 0) +
    0.6 * Math.abs(mean(notes) - centre);
  return options.reduce((best, each) => (cost(each) < cost(best) ? each : best));
}

export const chordAt = (chords: readonly ChordSpan[], beat: number): ChordSpan =>
  chords.findLast((chord) => chord.startBeat <= beat + 1e-6) ?? chords[0];

export const scaleSteps: Readonly<Record<Scale, readonly number[]>> = {
  minor: [0, 2, 3, 5, 7, 8, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  major: [0, 2, 4, 5, 7, 9, 11],
};
