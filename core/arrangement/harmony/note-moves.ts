import { pitchClass } from '../../units/pitch';
import { projectRateHz } from '../../units/time';
import { scaleClasses } from '../../theory/scale';
import type { LoopSource } from '../fit-request';
import type { PlannedStretch } from './chord-plan';
import { harmonyAt, type Harmonic } from './harmony';

/** Whether a loop is a clear single line whose notes can be moved one by one. */
export const hasClearLine = ({ harmony }: Pick<LoopSource, 'harmony'>): boolean => (harmony?.line?.length ?? 0) > 1;

/** What is shorter passes, and may stay in the scale; what is held belongs to the chord. */
const passingSeconds = 0.16;

/** The nearest pitch class that is allowed: semitones from a pitch, the lower of two that are as near. */
export function nearestClass(pitch: number, allowed: readonly number[]): number {
  for (const away of [0, -1, 1, -2, 2, -3, 3, -4, 4, -5, 5, 6]) if (allowed.includes(pitchClass(pitch + away))) return away;
  return 0;
}

/**
 * A single line brought to the chord that holds, note by note: each that is held goes to the nearest note of the chord, what passes to the nearest of
 * chord and key. Where no chord holds nothing is moved.
 * @param keyShift what the whole is moved by anyhow
 * @returns rows of three, in frames of the sound and semitones: from, to, by how much; null where nothing has to move
 */
export function noteMovesFor(
  source: Pick<LoopSource, 'harmony'>,
  stretch: Pick<PlannedStretch, 'startBeat'>,
  harmony: Harmonic,
  keyShift: number,
): number[] | null {
  const { chord, key } = harmonyAt(harmony, stretch.startBeat),
    line = source.harmony?.line;
  if (!chord || !line) return null;
  const inScale = [...chord.classes, ...(key ? scaleClasses(key) : [])],
    rows: number[] = [];
  for (const { startSeconds, lengthSeconds, pitch } of line) {
    const sounding = pitch + keyShift,
      by = nearestClass(sounding, lengthSeconds < passingSeconds ? inScale : chord.classes);
    if (by !== 0) rows.push(Math.round(startSeconds * projectRateHz), Math.round((startSeconds + lengthSeconds) * projectRateHz), by);
  }
  return rows;
}
