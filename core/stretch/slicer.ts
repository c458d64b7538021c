import { layJoins, type Join, type JoinSetting, joinSetting } from './joins';
import type { TimeMap } from './time-map';
import { unroll, wrapFrame } from './wrap';

/** A slice begins so much before its hit, and fades over as much: 1 ms at 44.1 kHz. */
export const leadFrames = 44;

/** Hits in whole frames of the cycle, ascending, and where each goes. */
export interface Hits {
  readonly frames: readonly number[];
  readonly places: readonly number[];
}

/**
 * Percussive stretch: every hit is moved to its place with its attack untouched, and so is what leads into the next one; in between the
 * sound is shortened or lengthened at places where it joins itself well. Everything wraps around, so the result is a loop of exactly the
 * map's target length. Method: slicing at onsets; joins by WSOLA (Verhelst & Roelants 1993).
 * @param hits at least one
 */
export function stretchSlices(
  cycle: readonly Float32Array[],
  { frames, places }: Hits,
  { sourceFrames, targetFrames }: Pick<TimeMap, 'sourceFrames' | 'targetFrames'>,
  setting: JoinSetting = joinSetting,
): Float32Array[] {
  const margin = 2 * setting.grainFrames + leadFrames + setting.searchFrames,
    sources = cycle.map((plane) => unroll(plane, leadFrames, sourceFrames + margin)),
    guide = sources.length === 1 ? sources[0] : sum(sources),
    slices = cutSlices({ frames, places }, sourceFrames, targetFrames),
    origin = slices[0].place - leadFrames,
    made = cycle.map(() => new Float32Array(targetFrames + 2 * leadFrames));
  for (const { from, sourceLength, place, targetLength } of slices) {
    const joins = layJoins(guide, from, sourceLength + leadFrames, targetLength + leadFrames, setting);
    for (let channel = 0; channel < cycle.length; channel++)
      writeSlice(sources[channel], from, joins, made[channel], place - leadFrames - origin, targetLength);
  }
  return made.map((plane) => foldRound(plane, origin, targetFrames));
}

export interface Slice {
  /** Onset in the source, and in the result. */
  readonly from: number;
  readonly place: number;
  /** To the next onset, there and here. */
  readonly sourceLength: number;
  readonly targetLength: number;
}

/** The cycle cut at its hits; what would have no length is left out. */
export function cutSlices({ frames, places }: Hits, sourceFrames: number, targetFrames: number): Slice[] {
  const last = frames.length - 1;
  return frames
    .map((from, index) => ({
      from,
      place: places[index],
      sourceLength: (index === last ? frames[0] + sourceFrames : frames[index + 1]) - from,
      targetLength: (index === last ? places[0] + targetFrames : places[index + 1]) - places[index],
    }))
    .filter(({ sourceLength, targetLength }) => sourceLength > 0 && targetLength > 0);
}

/** Writes what was made from `origin` on into a cycle, round its end. */
export function foldRound(plane: Float32Array, origin: number, targetFrames: number): Float32Array {
  const out = new Float32Array(targetFrames);
  for (let i = 0, at = wrapFrame(origin, targetFrames); i < plane.length; i++) {
    out[at] += plane[i];
    if (++at === targetFrames) at = 0;
  }
  return out;
}

/** Planes of one length added up, frame by frame. */
export function sum(planes: readonly Float32Array[]): Float32Array {
  const out = planes[0].slice();
  for (const plane of planes.slice(1)) for (let i = 0; i < out.length; i++) out[i] += plane[i];
  return out;
}

/** Writes one slice, fading in over its first and out over the `leadFrames` behind its end, so that neighbours sum to one. */
function writeSlice(
  source: Float32Array,
  from: number,
  joins: readonly Join[],
  target: Float32Array,
  at: number,
  targetLength: number,
): void {
  const total = targetLength + leadFrames;
  let older = 0,
    olderGain = 1;
  for (let k = 0; k < joins.length; k++) {
    const { at: first, offset, fadeFrames, gainRatio } = joins[k],
      until = Math.min(total, k + 1 < joins.length ? joins[k + 1].at : total);
    for (let i = first; i < until; i++) {
      const mix = i - first < fadeFrames ? (i - first) / fadeFrames : 1;
      let value = source[from + i + offset] * gainRatio;
      if (mix < 1) value = source[from + i + older] * olderGain * (1 - mix) + value * mix;
      target[at + i] += value * edge(i, targetLength, total);
    }
    older = offset;
    olderGain = gainRatio;
  }
}

const edge = (i: number, targetLength: number, total: number): number =>
  i < leadFrames ? i / leadFrames : i >= targetLength ? (total - i) / leadFrames : 1;
