import { chooseReading, keyShift, type LoopSource } from '../arrangement/fit-request';
import type { Key } from '../theory/key';

/** What a loop costs to be made to belong: named weights, used here and in the order the database gives. */
export const fitWeights = {
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

/**
 * What a loop costs to belong to a project, in points. Only what is compared can be unknown: without a key in the project, of what has no pitch and of
 * drums, which do not move, no key is asked for.
 */
export function fitCost(loop: Pick<LoopSource, 'tempoBpm' | 'key' | 'pitched' | 'family'>, project: FitContext): number {
  const stretch =
      loop.tempoBpm === null
        ? fitWeights.unknownTempo
        : Math.abs(Math.log2((loop.tempoBpm * chooseReading(loop.tempoBpm, project.tempoBpm)) / project.tempoBpm)) *
          fitWeights.stretchPerOctave,
    isCompared = project.key !== null && loop.pitched === true && loop.family !== 'drums',
    shift = !isCompared
      ? 0
      : loop.key === null
        ? fitWeights.unknownKey
        : Math.abs(keyShift(loop, project.key)) * fitWeights.shiftPerSemitone;
  return stretch + shift;
}

/** 0–100: how little must be done to a loop for it to belong to the project. 100: nothing. */
export const scoreFit = (loop: Pick<LoopSource, 'tempoBpm' | 'key' | 'pitched' | 'family'>, project: FitContext): number =>
  Math.round(100 * Math.exp(-fitCost(loop, project)));
