import { pitchClass } from '../../units/pitch';
import { shortestShift } from '../../theory/key';
import type { Fitted, LoopSource } from '../fit-request';
import type { Clip } from '../tree';
import { harmonyAt, linesBetween, type Harmonic } from './harmony';
import { loopChordAt, type LoopChord } from './loop-harmony';

/** A stretch of a clip that is moved by one amount because of the chords of the piece. */
export interface PlannedStretch {
  readonly startBeat: number;
  readonly endBeat: number;
  /** Beyond what the clip is moved by anyhow (by its key, and by hand). */
  readonly semitones: number;
  /** What holds in the loop, and in the piece; null where it is not known. */
  readonly from: LoopChord | null;
  readonly to: string | null;
  /** The third of the one is minor and that of the other major: roots agree, the kind does not. */
  readonly isOtherKind: boolean;
  readonly isByHand: boolean;
}

export interface PlanOf {
  readonly source: Pick<LoopSource, 'harmony' | 'family' | 'beats' | 'pitched'>;
  readonly fitted: Pick<Fitted, 'cycleBeats' | 'cycleFrames'>;
  readonly harmony: Harmonic;
}

/** How many semitones the key moves a clip by at a beat. */
type KeyShiftAt = (beat: number) => number;

const nearly = 1e-6;

/** Whether a loop can follow chords: it has a pitch, no drums, and its chords are known. */
export const canFollowChords = ({ harmony, family, pitched }: Pick<LoopSource, 'harmony' | 'family' | 'pitched'>): boolean =>
  pitched === true && family !== 'drums' && (harmony?.chords.length ?? 0) > 0;

/** The beats in a clip at which the loop's own chord changes, in each repetition. */
function ownLines(clip: Clip, chords: readonly LoopChord[], { source, fitted }: PlanOf): number[] {
  const scale = source.beats ? fitted.cycleBeats / source.beats : 1,
    end = clip.startBeat + clip.lengthBeats,
    origin = clip.startBeat - clip.offsetBeats,
    found: number[] = [];
  if (chords.length < 2 && Number.isFinite(fitted.cycleFrames)) return [];
  for (let cycle = origin; cycle < end; cycle += fitted.cycleBeats) {
    for (const { startBeat } of chords) {
      const at = cycle + startBeat * scale;
      if (at > clip.startBeat + nearly && at < end - nearly) found.push(at);
    }
    if (!Number.isFinite(fitted.cycleFrames) || fitted.cycleBeats <= nearly) break;
  }
  return found;
}

/** The loop's chord at a beat of the piece. */
function ownChordAt(clip: Clip, beat: number, chords: readonly LoopChord[], { source, fitted }: PlanOf): LoopChord | null {
  const scale = source.beats ? fitted.cycleBeats / source.beats : 1,
    into = beat - clip.startBeat + clip.offsetBeats,
    cycle = Number.isFinite(fitted.cycleFrames) ? ((into % fitted.cycleBeats) + fitted.cycleBeats) % fitted.cycleBeats : into;
  return loopChordAt(chords, (cycle > fitted.cycleBeats - nearly ? 0 : cycle) / scale);
}

/**
 * How a clip goes with the chords of the piece: the root that holds in the loop is brought to the root that is wanted, by the shortest way from where
 * the key has put it; a bass is brought to the chord's bass. Loops whose chords are not known, and drums, have no plan: one stretch, not moved.
 * @returns stretches that follow each other through the whole clip; neighbours that are moved alike, over the same chords, are one
 */
export function planChords(clip: Clip, plan: PlanOf, keyShiftAt: KeyShiftAt): PlannedStretch[] {
  const { source, harmony } = plan,
    end = clip.startBeat + clip.lengthBeats,
    whole = { startBeat: clip.startBeat, endBeat: end, semitones: 0, from: null, to: null, isOtherKind: false, isByHand: false };
  if (clip.shiftMarks && clip.shiftMarks.length > 0) return byHand(clip, whole);
  if (!clip.chordWay || !canFollowChords(source)) return [whole];
  const chords = source.harmony?.chords ?? [],
    lines = [clip.startBeat, ...linesBetween(harmony, clip.startBeat, end), ...ownLines(clip, chords, plan)]
      .sort((a, b) => a - b)
      .filter((beat, k, all) => k === 0 || beat > all[k - 1] + nearly),
    isBass = source.family === 'bass',
    stretches: PlannedStretch[] = [];
  for (const [k, startBeat] of lines.entries()) {
    const from = ownChordAt(clip, startBeat, chords, plan),
      { chord, symbol } = harmonyAt(harmony, startBeat),
      endBeat = lines[k + 1] ?? end,
      // A bass line over an inversion still moves around the root; of a chord over another bass it takes that.
      wanted = chord && (isBass ? chord.bass : chord.root),
      semitones = from && wanted !== null ? shortestShift(pitchClass(from.root + keyShiftAt(startBeat)), wanted) : 0,
      isOtherKind = from !== null && chord !== null && from.third !== null && chord.third !== null && from.third !== chord.third,
      last = stretches.at(-1);
    if (
      last &&
      last.semitones === semitones &&
      last.from === from &&
      last.to === symbol &&
      sameKeyShift(keyShiftAt, last.startBeat, startBeat)
    )
      stretches[stretches.length - 1] = { ...last, endBeat };
    else stretches.push({ startBeat, endBeat, semitones, from, to: symbol, isOtherKind, isByHand: false });
  }
  return stretches;
}

const sameKeyShift = (keyShiftAt: KeyShiftAt, a: number, b: number): boolean => keyShiftAt(a) === keyShiftAt(b);

function byHand(clip: Clip, whole: PlannedStretch): PlannedStretch[] {
  const origin = clip.startBeat - clip.offsetBeats,
    marks = (clip.shiftMarks ?? [])
      .map(({ atBeat, semitones }) => ({ startBeat: origin + atBeat, semitones }))
      .sort((a, b) => a.startBeat - b.startBeat),
    before = marks.findLast(({ startBeat }) => startBeat <= whole.startBeat + nearly),
    inside = marks.filter(({ startBeat }) => startBeat > whole.startBeat + nearly && startBeat < whole.endBeat - nearly),
    all = [{ startBeat: whole.startBeat, semitones: before?.semitones ?? 0 }, ...inside];
  return all.map((mark, k) => ({ ...whole, ...mark, endBeat: all[k + 1]?.startBeat ?? whole.endBeat, isByHand: true }));
}

/** What a move costs the sound, in words (common practice: up to two semitones nobody hears, beyond an octave nothing is left of it). */
export function costOfMove(semitones: number): { readonly grade: 0 | 1 | 2 | 3; readonly words: string } {
  const size = Math.abs(semitones);
  if (size < 0.5) return { grade: 0, words: 'as recorded' };
  if (size <= 3) return { grade: 1, words: 'hardly heard' };
  return size <= 7 ? { grade: 2, words: 'heard a little' } : { grade: 3, words: 'clearly heard' };
}
