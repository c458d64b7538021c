import { holdCycle } from '../dsp/ceiling';
import { resampleCycle } from '../dsp/resample';
import { assertPositive, assertRange } from '../units/assert';
import { dbToRatio } from '../units/level';
import { semitonesToRatio } from '../units/pitch';
import { easeSeam } from './ease-seam';
import { stretchModeRow, type StretchMode } from './stretch-modes';
import { bentMap, straightMap } from './time-map';

export interface FitPlan {
  readonly stretchMode: StretchMode;
  /** The length of one cycle in the project, in frames. */
  readonly targetFrames: number;
  /** Up is positive; 0 leaves the pitch alone. Hundredths are cents. The tape has no use for it: its pitch follows from its speed. */
  readonly shiftSemitones: number;
  /** Where the character goes: formants by so much, with the voice mode only. */
  readonly formantSemitones?: number;
  /** Frame of the cycle at which each of a cycle's equal steps was played; empty or left out when it is even. */
  readonly markFrames?: readonly number[];
  /** Beats of the cycle, so that hits go with the lines they are played on; left out when they are not known. */
  readonly beats?: number;
  readonly sampleRateHz?: number;
}

/** Checks from outside this tree may still name the mode by the word it had before. */
const namedBefore = (plan: object): StretchMode => (plan as { readonly engine?: StretchMode }).engine ?? 'tonal';

/** Silence behind what plays once: two of the longest frames, also an octave down and twice as fast. */
const silenceFrames = 32768;

/** A change of speed this small is heard by nobody (half a cent) and is made by resampling, whatever the material. */
const resampleBelow = 0.0003;

/**
 * One cycle of a loop, made to last exactly `targetFrames` and moved by `shiftSemitones`; the result is cyclic: its end joins
 * its start, and it never peaks farther over the cycle than its mode may. With nothing to do it is a copy, bit for bit.
 * @param cycle `[channel][frame]`, one cycle, tail folded in
 * @param onsetFrames hits in frames of the cycle
 * @throws {RangeError} for a speed outside ¼–4, a shift outside ±24 or a character outside ±12
 */
export function fitCycle(cycle: readonly Float32Array[], onsetFrames: readonly number[], plan: FitPlan): Float32Array[] {
  const {
      targetFrames,
      shiftSemitones,
      stretchMode = namedBefore(plan),
      formantSemitones = 0,
      markFrames = [],
      beats = 0,
      sampleRateHz = 44100,
    } = plan,
    sourceFrames = cycle[0].length;
  assertPositive('targetFrames', targetFrames);
  assertRange('shiftSemitones', shiftSemitones, -24, 24);
  assertRange('formantSemitones', formantSemitones, -12, 12);
  assertRange('length ratio', targetFrames / sourceFrames, 0.24, 4.2);
  const bent = markFrames.length > 1,
    moved = stretchMode === 'voice' && formantSemitones !== 0;
  if (stretchMode === 'plain') return heldUnder(cycle, stretchMode, resampleCycle(cycle, targetFrames));
  if (shiftSemitones === 0 && targetFrames === sourceFrames && !bent && !moved) return cycle.map((plane) => plane.slice());
  // Stretch to the length at which resampling back to the target gives the wanted pitch.
  const pitchRatio = semitonesToRatio(shiftSemitones),
    stretchedFrames = Math.round(targetFrames * pitchRatio),
    still =
      Math.abs(stretchedFrames / sourceFrames - 1) < resampleBelow && !bent && !moved && !(stretchMode === 'voice' && shiftSemitones !== 0);
  const stretched = still
    ? cycle
    : stretchModeRow(stretchMode).stretch({
        cycle,
        onsetFrames: onsetFrames.filter((frame) => frame >= 0 && frame < sourceFrames),
        map: bent ? bentMap(sourceFrames, stretchedFrames, markFrames) : straightMap(sourceFrames, stretchedFrames),
        beats,
        pitchRatio,
        formantRatio: semitonesToRatio(formantSemitones),
        sampleRateHz,
      });
  const fitted = resampleCycle(stretched, targetFrames);
  for (const plane of fitted) easeSeam(plane);
  return heldUnder(cycle, stretchMode, fitted);
}

/**
 * What plays once, made to last exactly `targetFrames` and moved by `shiftSemitones`. It is fitted as a cycle with so much silence behind it
 * that no frame reaches round to its start. With nothing to do it is a copy, bit for bit.
 * @param sound `[channel][frame]`
 * @throws {RangeError} as `fitCycle`
 */
export function fitOnce(sound: readonly Float32Array[], onsetFrames: readonly number[], plan: FitPlan): Float32Array[] {
  const { targetFrames, shiftSemitones, stretchMode, formantSemitones = 0 } = plan,
    sourceFrames = sound[0].length;
  assertPositive('targetFrames', targetFrames);
  if (
    targetFrames === sourceFrames &&
    (stretchMode === 'plain' || (shiftSemitones === 0 && (stretchMode !== 'voice' || formantSemitones === 0)))
  )
    return sound.map((plane) => plane.slice());
  const ratio = targetFrames / sourceFrames,
    silenceTarget = Math.ceil(silenceFrames * Math.max(1, ratio)),
    silenceSource = Math.round(silenceTarget / ratio),
    padded = sound.map((plane) => {
      const longer = new Float32Array(sourceFrames + silenceSource);
      longer.set(plane);
      return longer;
    });
  return fitCycle(padded, onsetFrames, { ...plan, targetFrames: targetFrames + silenceTarget, beats: 0 }).map((plane) =>
    plane.slice(0, targetFrames),
  );
}

/** What was made, its peaks held where its mode's limit over the source's peak is; in place. */
function heldUnder(cycle: readonly Float32Array[], stretchMode: StretchMode, made: Float32Array[]): Float32Array[] {
  let peak = 0;
  for (const plane of cycle) for (const value of plane) if (Math.abs(value) > peak) peak = Math.abs(value);
  if (peak > 0) holdCycle(made, peak * dbToRatio(stretchModeRow(stretchMode).mostPeakGrowthDb));
  return made;
}
