import { integratedLoudness, samplePeakDbfs } from '../analysis/loudness/loudness';
import { filterSignal, passFilter } from '../dsp/biquad';
import { dbToRatio } from '../units/level';
import { projectRateHz } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';

/** Everything that is put right about a sound as a whole; what is null or false is left alone. */
export interface CleanStep {
  readonly kind: 'clean';
  /** Silence before and behind goes: what is softer than this, dBFS. */
  readonly trimBelowDbfs: number | null;
  readonly removesDc: boolean;
  readonly lowCutHz: number | null;
  readonly highCutHz: number | null;
  /** What stays softer than this is let down. */
  readonly gateDbfs: number | null;
  readonly gateReleaseMs: number;
  /** 0 mono, 1 as it is, 2 twice as wide. */
  readonly width: number;
  readonly fadeInMs: number;
  readonly fadeOutMs: number;
  readonly normalise: { readonly by: 'peak' | 'loudness'; readonly toDb: number } | null;
}

export const nothingCleaned: CleanStep = {
  kind: 'clean',
  trimBelowDbfs: null,
  removesDc: false,
  lowCutHz: null,
  highCutHz: null,
  gateDbfs: null,
  gateReleaseMs: 80,
  width: 1,
  fadeInMs: 0,
  fadeOutMs: 0,
  normalise: null,
};

const frames = (ms: number): number => Math.round((ms / 1000) * projectRateHz);

/** In the order in which each leaves the next its work: DC, cuts, gate, silence, width, fades, level. */
export function clean(sound: BenchSound, step: CleanStep): BenchSound {
  let made: BenchSound = { ...sound, channels: sound.channels.map((plane) => plane.slice()) };
  const each = (change: (plane: Float32Array) => Float32Array) => {
    made = { ...made, channels: made.channels.map(change) };
  };
  if (step.removesDc) each(withoutDc);
  if (step.lowCutHz !== null) each((plane) => filtered(plane, 'high', step.lowCutHz as number, made.isCycle));
  if (step.highCutHz !== null) each((plane) => filtered(plane, 'low', step.highCutHz as number, made.isCycle));
  if (step.gateDbfs !== null) gate(made.channels as Float32Array[], dbToRatio(step.gateDbfs), frames(step.gateReleaseMs));
  if (step.trimBelowDbfs !== null) made = trimmed(made, dbToRatio(step.trimBelowDbfs));
  if (step.width !== 1) made = { ...made, channels: widened(made.channels, step.width) };
  fade(made.channels as Float32Array[], frames(step.fadeInMs), frames(step.fadeOutMs));
  if (step.normalise) level(made.channels as Float32Array[], step.normalise);
  return made;
}

function withoutDc(plane: Float32Array): Float32Array {
  let sum = 0;
  for (const value of plane) sum += value;
  const mean = sum / Math.max(1, plane.length);
  return plane.map((value) => value - mean);
}

/** Butterworth of the fourth order: two of the second in a row. What goes round is filtered as if it had gone round before. */
function filtered(plane: Float32Array, kind: 'low' | 'high', cutoffHz: number, isCycle: boolean): Float32Array {
  const before = isCycle ? Math.min(plane.length, projectRateHz) : 0,
    longer = new Float32Array(before + plane.length);
  longer.set(plane.subarray(plane.length - before));
  longer.set(plane, before);
  const once = filterSignal(longer, passFilter(kind, cutoffHz, projectRateHz, 0.5412)),
    twice = filterSignal(once, passFilter(kind, cutoffHz, projectRateHz, 1.3066));
  return Float32Array.from(twice.subarray(before));
}

/** Opens within a millisecond, closes over the release; all channels together. In place. */
function gate(planes: readonly Float32Array[], threshold: number, releaseFrames: number): void {
  const fall = Math.exp(-1 / Math.max(1, releaseFrames / 3)),
    rise = 1 / 44,
    hold = Math.round(0.02 * projectRateHz);
  let gain = 0,
    open = 0;
  const length = planes[0]?.length ?? 0,
    ahead = 44;
  for (let i = 0; i < length; i++) {
    for (const plane of planes) if (Math.abs(plane[Math.min(length - 1, i + ahead)]) >= threshold) open = hold;
    gain = open > 0 ? Math.min(1, gain + rise) : gain * fall;
    open--;
    for (const plane of planes) plane[i] *= gain;
  }
}

function trimmed(sound: BenchSound, threshold: number): BenchSound {
  const length = framesOf(sound),
    loud = (i: number) => sound.channels.some((plane) => Math.abs(plane[i]) >= threshold);
  let from = 0,
    to = length;
  while (from < to && !loud(from)) from++;
  while (to > from && !loud(to - 1)) to--;
  // A whole silence stays what it is.
  if (from >= to || (from === 0 && to === length)) return sound;
  const begin = Math.max(0, from - 44),
    end = Math.min(length, to + 441);
  return {
    ...sound,
    channels: sound.channels.map((plane) => plane.slice(begin, end)),
    startFrame: Math.max(0, sound.startFrame - begin),
    onsetFrames: sound.onsetFrames.map((frame) => frame - begin).filter((frame) => frame >= 0 && frame < end - begin),
  };
}

function widened(channels: readonly Float32Array[], width: number): Float32Array[] {
  const [left, right = left] = channels,
    half = width / 2;
  return [
    left.map((value, i) => (value + right[i]) / 2 + (value - right[i]) * half),
    left.map((value, i) => (value + right[i]) / 2 - (value - right[i]) * half),
  ];
}

function fade(planes: readonly Float32Array[], inFrames: number, outFrames: number): void {
  for (const plane of planes) {
    for (let i = 0; i < Math.min(inFrames, plane.length); i++) plane[i] *= i / inFrames;
    for (let i = 0; i < Math.min(outFrames, plane.length); i++) plane[plane.length - 1 - i] *= i / outFrames;
  }
}

/** To a peak in dBFS, or to a loudness in LUFS; silence stays silence. In place. */
function level(planes: readonly Float32Array[], { by, toDb }: NonNullable<CleanStep['normalise']>): void {
  const is = by === 'peak' ? samplePeakDbfs(planes) : integratedLoudness(planes, projectRateHz);
  if (is === null) return;
  const ratio = dbToRatio(toDb - is);
  for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] *= ratio;
}
