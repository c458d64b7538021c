import { isANumber } from '../../core/dsp/is-a-number';
import { scheduleProject } from '../../core/arrangement/schedule';
import { renderMix } from '../../core/mix/render';
import { renderFitted } from '../../core/mix/render-fitted';
import { writeWav } from '../../core/formats/wav/write';
import type { LoopSource } from '../../core/arrangement/fit-request';
import type { Project } from '../../core/arrangement/tree';
import { ratioToDb } from '../../core/units/level';
import { framesPerBeat, projectRateHz } from '../../core/units/time';
import { soundOf, type Pair } from './pairs';

export interface SoundAfterPlan {
  /** Peak of the whole over that of the loop, dB. */
  readonly peakGrowthDb: number;
  /** The loudest 5 ms within 20 ms of a join over the loudest 5 ms of the loop as it is, dB. */
  readonly joinGrowthDb: number;
  readonly levelChangeDb: number;
  readonly isFinite: boolean;
}

const blockFrames = Math.round(0.005 * projectRateHz),
  nearFrames = Math.round(0.02 * projectRateHz);

const peakOf = (plane: Float32Array): number => plane.reduce((most, value) => Math.max(most, Math.abs(value)), 0),
  rmsOf = (plane: Float32Array): number => Math.sqrt(plane.reduce((sum, value) => sum + value * value, 0) / Math.max(1, plane.length));

/** The loudest 5 ms of a stretch. */
function loudestBlock(plane: Float32Array, from = 0, to = plane.length): number {
  let most = 0;
  for (let at = Math.max(0, from); at + blockFrames <= Math.min(plane.length, to); at += Math.round(blockFrames / 2))
    most = Math.max(most, rmsOf(plane.subarray(at, at + blockFrames)));
  return most;
}

/**
 * What a loop sounds like when it follows the chords of a piece, held against the loop as it is. Measures that know nothing of how it was made.
 * @param sound the loop, from its first bar on
 */
export function soundUnder(project: Project, source: LoopSource, sound: readonly Float32Array[]): SoundAfterPlan {
  const bytes = writeWav({ sampleRateHz: projectRateHz, channels: [...sound] }, 'float32'),
    schedule = scheduleProject(project, new Map([[source.loopId, source]])),
    buffers = new Map([...schedule.requests].map(([key, request]) => [key, renderFitted(request, bytes)])),
    out = renderMix(project, schedule, buffers).channels,
    [left] = out,
    beatFrames = framesPerBeat(project.tempoBpm, projectRateHz),
    joins = project.chords.slice(1).map(({ startBeat }) => Math.round(startBeat * beatFrames)),
    own = loudestBlock(sound[0]),
    atJoins = Math.max(1e-9, ...joins.map((frame) => loudestBlock(left, frame - nearFrames, frame + nearFrames)));
  return {
    // Of both sides together, as a stretch holds it: what is louder on one may be moved to the other.
    peakGrowthDb: ratioToDb(Math.max(...out.map(peakOf)) / Math.max(...sound.map(peakOf))),
    joinGrowthDb: ratioToDb(atJoins / own),
    levelChangeDb: ratioToDb(rmsOf(left) / rmsOf(sound[0])),
    isFinite: left.every((value) => isANumber(value)),
  };
}

/** The same of a made-up pair. */
export const soundAfterPlan = (pair: Pair): SoundAfterPlan => soundUnder(pair.project, pair.source, soundOf(pair));
