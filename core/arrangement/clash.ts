import { chordPitchClasses } from '../theory/chord';
import { keptByKey } from '../kept/kept';
import { keyCode, parseKeyCode, type Key } from '../theory/key';
import { scaleClasses } from '../theory/scale';
import { pitchClass } from '../units/pitch';
import { chordAtBeat } from './harmony/harmony';
import type { ChordMark } from './tree';

/** Notes of a key; plain minor has both sixths and both sevenths, since pieces use them all. */
export const notesOfKey = keptByKey((code: string): ReadonlySet<number> => {
  const key = parseKeyCode(code) as Key;
  return new Set([
    ...scaleClasses(key),
    ...(key.mode === 'minor' && !key.church ? [9, 11].map((step) => pitchClass(step + key.tonic)) : []),
  ]);
});

/** How hard a note rubs: a semitone from a note of the chord, in the key or not; out of chord and key; else it does not. */
const rubs = { semitoneOutOfKey: 1, semitoneInKey: 0.5, outOfKey: 0.3 } as const;

/** From here a bar is marked. */
export const clashFrom = 0.18;

export interface Clash {
  /** 0 where all notes are of the chord, 1 where all rub as hard as can be. */
  readonly degree: number;
  /** Pitch classes that rub, the loudest first. */
  readonly pitchClasses: readonly number[];
}

/**
 * How much notes rub against a chord: each pitch class by its strength, weighed by how it stands to chord and key (common practice: a
 * semitone beside a chord's note is what clashes).
 * @param strengths of twelve pitch classes, in any scale, as they sound after transposing
 * @param chord pitch classes
 */
export function clashOf(strengths: readonly number[], chord: readonly number[], key: Key | null): Clash {
  const inKey = (pitch: number) => key === null || notesOfKey(keyCode(key)).has(pitch),
    total = strengths.reduce((sum, value) => sum + value, 0),
    found = strengths.map((strength, pitch) => {
      if (chord.includes(pitch)) return { pitch, rub: 0 };
      const beside = chord.includes((pitch + 1) % 12) || chord.includes((pitch + 11) % 12),
        hard = beside ? (inKey(pitch) ? rubs.semitoneInKey : rubs.semitoneOutOfKey) : inKey(pitch) ? 0 : rubs.outOfKey;
      return { pitch, rub: strength * hard };
    });
  if (total <= 0 || chord.length === 0) return { degree: 0, pitchClasses: [] };
  return {
    degree: found.reduce((sum, { rub }) => sum + rub, 0) / total,
    pitchClasses: found
      .filter(({ rub }) => rub > total * 0.04)
      .sort((a, b) => b.rub - a.rub)
      .map(({ pitch }) => pitch),
  };
}

export interface BarAgainst {
  readonly symbol: string | null;
  readonly clash: Clash;
}

/**
 * A loop's bars against the chords that sound with them when its cycle begins at a beat of the project.
 * @param bars strengths of pitch classes by bar of the loop, as recorded
 * @param barBeats length of one of its bars in beats of the project
 */
export function barsAgainstChords(
  bars: readonly (readonly number[])[],
  shiftSemitones: number,
  cycleStartBeat: number,
  barBeats: number,
  chords: readonly ChordMark[],
  key: Key | null,
): BarAgainst[] {
  const shift = ((Math.round(shiftSemitones) % 12) + 12) % 12;
  return bars.map((strengths, bar) => {
    const mark = chordAtBeat(chords, cycleStartBeat + bar * barBeats),
      classes = mark ? chordPitchClasses(mark.symbol) : null,
      moved = strengths.map((_, pitch) => strengths[(pitch - shift + 12) % 12]);
    return { symbol: mark?.symbol ?? null, clash: classes ? clashOf(moved, classes, key) : { degree: 0, pitchClasses: [] } };
  });
}
