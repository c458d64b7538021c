import { resampleCyclic } from '../dsp/resample';
import { assertPositive, assertRange } from '../units/assert';
import { semitonesToRatio } from '../units/pitch';
import { stretchSlices } from './slicer';
import { stretchTonal } from './vocoder';

export type StretchEngine = 'percussive' | 'tonal';

export interface FitPlan {
  readonly engine: StretchEngine;
  /** The length of one lap in the project, in frames. */
  readonly targetFrames: number;
  /** Up is positive; 0 leaves the pitch alone. */
  readonly shiftSemitones: number;
}

/** A change of speed this small is heard by nobody (half a cent) and is made by resampling, whatever the material. */
const resampleBelow = 0.0003;

/**
 * One lap of a loop, made to last exactly `targetFrames` and moved by `shiftSemitones`; the result is cyclic: its end joins
 * its start. With nothing to do it is a copy, bit for bit.
 * @param cycle `[channel][frame]`, one lap, tail folded in
 * @param onsetFrames hits in frames of the cycle
 * @throws {RangeError} for a speed outside ¼–4 or a shift outside ±24
 */
export function fitCycle(cycle: readonly Float32Array[], onsetFrames: readonly number[], plan: FitPlan): Float32Array[] {
  assertPositive('targetFrames', plan.targetFrames);
  assertRange('shiftSemitones', plan.shiftSemitones, -24, 24);
  const sourceFrames = cycle[0].length;
  assertRange('length ratio', plan.targetFrames / sourceFrames, 0.24, 4.2);
  if (plan.shiftSemitones === 0 && plan.targetFrames === sourceFrames) return cycle.map((plane) => plane.slice());
  const pitchRatio = semitonesToRatio(plan.shiftSemitones);
  // Stretch to the length at which resampling back to the target gives the wanted pitch.
  const stretchedFrames = Math.round(plan.targetFrames * pitchRatio);
  const stretched =
    Math.abs(stretchedFrames / sourceFrames - 1) < resampleBelow ? cycle : stretch(cycle, onsetFrames, stretchedFrames, plan.engine);
  return stretched.map((plane) => resampleCyclic(plane, plan.targetFrames));
}

function stretch(
  cycle: readonly Float32Array[],
  onsetFrames: readonly number[],
  targetFrames: number,
  engine: StretchEngine,
): readonly Float32Array[] {
  const sourceFrames = cycle[0].length;
  const hits = onsetFrames.filter((frame) => frame >= 0 && frame < sourceFrames);
  return engine === 'percussive' && hits.length > 0 ? stretchSlices(cycle, hits, targetFrames) : stretchTonal(cycle, targetFrames);
}
