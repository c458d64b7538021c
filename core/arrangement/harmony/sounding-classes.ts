import { readChord } from '../../theory/chord';
import { pitchClass } from '../../units/pitch';
import type { LoopSource } from '../fit-request';
import type { Pattern, SoundingNote } from '../pattern/pattern';
import { notesOfClip } from '../pattern/plan-notes';
import { chordPlanOf, fitClip } from '../plan';
import { keyShift } from '../fit-request';
import { heardTracks, ofLoop, patternOf, type Clip, type Project } from '../tree';
import { harmonyAt, keyAt } from './harmony';
import { nearestClass } from './note-moves';

/** What sounds of one clip from beat to beat. */
export interface SoundingClip {
  readonly clip: Clip;
  readonly trackId: string;
  readonly isBass: boolean;
  /** Strength of each pitch class between two beats, as it sounds in the piece. */
  readonly classesBetween: (fromBeat: number, toBeat: number) => Float32Array;
}

/** All that sounds with a pitch, clip by clip. @param loops those that are known, by id */
export function soundingClips(project: Project, loops: ReadonlyMap<number, LoopSource>): SoundingClip[] {
  return heardTracks(project).flatMap(({ id: trackId, clips }) =>
    clips.flatMap((clip): SoundingClip[] => {
      const pattern = patternOf(project, clip),
        source = ofLoop(loops, clip);
      if (pattern && !pattern.isDrums)
        return [
          {
            clip,
            trackId,
            isBass: isBassId(clip.overrides.instrument ?? pattern.instrument),
            classesBetween: ofPattern(clip, pattern, project),
          },
        ];
      if (!source || source.pitched !== true || source.family === 'drums' || !source.harmony || source.harmony.bars.length === 0) return [];
      return [{ clip, trackId, isBass: source.family === 'bass', classesBetween: ofLoopClip(clip, source, project) }];
    }),
  );
}

const isBassId = (instrument: string | null): boolean => instrument?.includes('bass') ?? false;

const step = 1;

function ofPattern(clip: Clip, pattern: Pattern, project: Project): SoundingClip['classesBetween'] {
  let notes: readonly SoundingNote[] | null = null;
  return (from, to) => {
    notes ??= notesOfClip(clip, pattern, project);
    const classes = new Float32Array(12);
    for (const { startBeat, lengthBeats, pitch, velocity } of notes) {
      const beats = Math.min(to, startBeat + lengthBeats) - Math.max(from, startBeat);
      if (beats > 0) classes[pitchClass(pitch)] += (beats * velocity) / 127 / (to - from);
    }
    return classes;
  };
}

function ofLoopClip(clip: Clip, source: LoopSource, project: Project): SoundingClip['classesBetween'] {
  const { cycleBeats, cycleFrames } = fitClip(clip, source, project),
    plan = chordPlanOf(clip, source, project),
    bars = source.harmony?.bars ?? [],
    loopBeats = source.beats ?? cycleBeats,
    end = clip.startBeat + clip.lengthBeats;
  return (from, to) => {
    const classes = new Float32Array(12),
      first = Math.max(from, clip.startBeat),
      last = Math.min(to, end);
    for (let beat = first; beat < last - 1e-6; beat += step) {
      const into = beat - clip.startBeat + clip.offsetBeats,
        inCycle = Number.isFinite(cycleFrames) ? into % cycleBeats : into,
        bar = Math.floor(((inCycle / cycleBeats) * loopBeats) / source.barBeats + 1e-6),
        strengths = bars[bar];
      if (!strengths) continue;
      const stretch = plan.findLast(({ startBeat }) => startBeat <= beat + 1e-6),
        key = clip.followKey ? keyShift(source, keyAt(project, beat)) : 0,
        { chord } = harmonyAt(project, beat),
        isNoteWise = clip.chordWay === 'notes' && chord !== null,
        shift = Math.round(key + clip.shiftSemitones + (isNoteWise ? 0 : (stretch?.semitones ?? 0))),
        share = Math.min(step, last - beat) / (to - from);
      for (const [pitch, strength] of strengths.entries()) {
        const moved = pitchClass(pitch + shift);
        classes[isNoteWise ? pitchClass(moved + nearestClass(moved, chord.classes)) : moved] += strength * share;
      }
    }
    return classes;
  };
}

/** Strengths of all that sounds between two beats, and of what of it is bass. */
export function sumBetween(
  sounding: readonly SoundingClip[],
  fromBeat: number,
  toBeat: number,
): { readonly classes: Float32Array; readonly bass: Float32Array } {
  const classes = new Float32Array(12),
    bass = new Float32Array(12);
  for (const each of sounding)
    each.classesBetween(fromBeat, toBeat).forEach((value, pitch) => {
      classes[pitch] += value;
      if (each.isBass) bass[pitch] += value;
    });
  return { classes, bass };
}

/** Classes of a written chord; none where none holds. */
export const classesOfSymbol = (symbol: string | null): readonly number[] => (symbol ? (readChord(symbol)?.classes ?? []) : []);
