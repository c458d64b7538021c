import { keyShift, type LoopSource } from '../../arrangement/fit-request';
import type { Key } from '../../theory/key';

/** What it costs to stretch and shift a loop, in points: used in the whole score, and in the order that the database gives by itself. */
export const coarseCosts = {
  /** Cost of an octave of stretch: 10 % costs about a third of a point. */
  stretchPerOctave: 3,
  /** Cost of a semitone of shift. */
  shiftPerSemitone: 0.08,
  /** Of not knowing tempo or key, or of having none where one would be compared. */
  unknownTempo: 0.6,
  unknownKey: 0.15,
} as const;

export interface FitContext {
  readonly tempoBpm: number;
  readonly key: Key | null;
}

export type CoarseLoop = Pick<LoopSource, 'tempoBpm' | 'key' | 'pitched' | 'family'>;

/** What a loop's stretch costs, the best of literal, half and double. */
export const stretchCost = ({ tempoBpm }: CoarseLoop, project: FitContext): number =>
  tempoBpm === null ? coarseCosts.unknownTempo : stretchOctaves(tempoBpm, project.tempoBpm) * coarseCosts.stretchPerOctave;

/** By how many octaves a tempo is changed, with its sign, read half or double where that is less (see `chooseReading`; this one is asked a million times). */
export function signedStretch(tempoBpm: number, projectTempoBpm: number): number {
  const octaves = Math.log2(projectTempoBpm / tempoBpm);
  return octaves > 0.5 + 1e-6 ? octaves - 1 : octaves < -0.5 - 1e-6 ? octaves + 1 : octaves;
}

/** By how many octaves a tempo is away from another, read half or double where that is less. */
export const stretchOctaves = (tempoBpm: number, projectTempoBpm: number): number => Math.abs(signedStretch(tempoBpm, projectTempoBpm));

/** Whether a loop's key is held against the project's: only what is compared can be unknown. What has no pitch, and drums, do not move. */
export const isKeyCompared = ({ pitched, family }: CoarseLoop, project: FitContext): boolean =>
  project.key !== null && pitched === true && family !== 'drums';

/** What a loop's shift costs; what is not compared costs nothing. */
export const shiftCost = (loop: CoarseLoop, project: FitContext): number =>
  !isKeyCompared(loop, project)
    ? 0
    : loop.key === null
      ? coarseCosts.unknownKey
      : Math.abs(keyShift(loop, project.key)) * coarseCosts.shiftPerSemitone;

/** What stretch and shift cost together, in points. */
export const coarseCost = (
  loop: CoarseLoop,
  project: FitContext,
  weights: { readonly stretch: number; readonly shift: number } = { stretch: 1, shift: 1 },
): number => weights.stretch * stretchCost(loop, project) + weights.shift * shiftCost(loop, project);

/** A score out of points: 100 for none, rounded to a hundredth so that equal ones are equal everywhere. */
export const scoreOf = (points: number): number => Math.round(10_000 * Math.exp(-points)) / 100;

/** The score that stretch and shift alone would give. */
export const coarseScore = (loop: CoarseLoop, project: FitContext): number => scoreOf(coarseCost(loop, project));
