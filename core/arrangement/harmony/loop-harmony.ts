import { chordChanges, sureTriad, type BarNotes, type Triad } from '../../analysis/chords/bars';
import type { HeardNote } from '../../analysis/melody/melody';
import type { Family } from '../../theory/instruments';
import { noChord, readChord } from '../../theory/chord';
import type { ChordMark } from '../tree';

/** A chord of a loop, from a beat of it on. */
export interface LoopChord {
  readonly startBeat: number;
  readonly root: number;
  readonly bass: number;
  readonly third: 'minor' | 'major' | null;
  /** 0–1; 1 for what somebody said, or what is known because it was made so. */
  readonly probability: number;
}

/** What is known of the notes of a loop: enough to make it follow chords, and to say where it rubs. */
export interface LoopHarmony {
  readonly chords: readonly LoopChord[];
  /** Somebody said them, or the piece did in which it was made. */
  readonly isStated: boolean;
  /** Strength of each pitch class by bar, the strongest 1. */
  readonly bars: readonly (readonly number[])[];
  /** Its notes where a single voice plays; null where several do. */
  readonly line: readonly HeardNote[] | null;
}

/** Under this a triad is a guess; the bar before, or the one behind, is more likely what holds. */
const leastProbability = 0.3;

/** Chords that somebody stated. */
export const statedChords = (marks: readonly ChordMark[]): LoopChord[] =>
  marks.flatMap(({ startBeat, symbol }) => {
    const chord = symbol === noChord ? null : readChord(symbol);
    return chord ? [{ startBeat, root: chord.root, bass: chord.bass, third: chord.third, probability: 1 }] : [];
  });

/**
 * Chords as they were heard: by bar, and by beat within a bar where two that are fairly sure follow each other. What is unsure goes on as before.
 * @param barBeats beats of one of the loop's bars
 */
export function heardChords(
  bars: readonly Pick<BarNotes, 'chord' | 'bass'>[],
  beatChords: readonly (Triad | null)[],
  barBeats: number,
  family: Family | null = null,
): LoopChord[] {
  if (family === 'bass') return heardRoots(bars, barBeats);
  const found: LoopChord[] = [];
  const put = (startBeat: number, { root, minor, probability }: Triad, bass: number | null) => {
    const last = found.at(-1),
      third = minor ? 'minor' : 'major';
    if (last && last.root === root && last.third === third) return;
    found.push({ startBeat, root, bass: bass === null ? root : bass % 12, third, probability });
  };
  for (const [bar, { chord, bass }] of bars.entries()) {
    const from = Math.round(bar * barBeats),
      beats = beatChords.slice(from, Math.round((bar + 1) * barBeats)),
      within = chordChanges(beats);
    if (within.length > 1) {
      let at = 0;
      for (const triad of within) {
        const start = beats.findIndex(
          (each, beat) =>
            beat >= at && each !== null && each.root === triad.root && each.minor === triad.minor && each.probability >= sureTriad,
        );
        at = Math.max(at, start);
        put(bar * barBeats + at, triad, null);
      }
    } else if (chord && (chord.probability >= leastProbability || found.length === 0)) put(bar * barBeats, chord, bass);
  }
  // What holds before the first that was heard is that one.
  return found.map((each, k) => (k === 0 ? { ...each, startBeat: 0 } : each));
}

/** Of a bass the note that is lowest most of the time is the root; whether its third is minor it seldom says. */
function heardRoots(bars: readonly Pick<BarNotes, 'chord' | 'bass'>[], barBeats: number): LoopChord[] {
  const found: LoopChord[] = [];
  for (const [bar, { chord, bass }] of bars.entries()) {
    const root = bass === null ? chord?.root : bass % 12,
      third = chord && chord.root === root && chord.probability >= sureTriad ? (chord.minor ? 'minor' : 'major') : null;
    if (root === undefined || found.at(-1)?.root === root) continue;
    found.push({ startBeat: found.length === 0 ? 0 : bar * barBeats, root, bass: root, third, probability: chord?.probability ?? 0.5 });
  }
  return found;
}

/** The chord of a loop at one of its beats; null where none is known. */
export const loopChordAt = (chords: readonly LoopChord[], beat: number): LoopChord | null =>
  chords.findLast(({ startBeat }) => startBeat <= beat + 1e-6) ?? chords[0] ?? null;
