import { quickselect } from 'd3-array';
import { bendsInside, isJointSharp, sharpestJoint, sharpPlaces } from './joint';

/** Lengths of a lead-in that are tried, the shortest first: 0.1 to 1.1 ms at 44.1 kHz, too short to be heard as one. */
const leadFrames = [6, 8, 12, 16, 24, 32, 48] as const;

/** What rises from nothing to 1 without a bend at either end (Perlin's smootherstep, 2002). */
const smootherstep = (x: number): number => x * x * x * (x * (6 * x - 15) + 10);

/**
 * Takes the click out of the joint of a cycle's end with its start, in place: where it bends more sharply than the cycle itself does (the
 * third difference against the 99.9th percentile inside), as when a hit stands on the very first frame, the last frames go over into the
 * cycle's first value. Every frame written lies between the one that was there and that value, so that nothing can grow beyond what
 * there is; and a lead-in is never louder than what it leads into. The least sharp of a few lengths is taken, and the shortest that
 * will do. A cycle whose joint is no sharper than it is stays as it is.
 */
export function easeSeam(plane: Float32Array): void {
  const frames = plane.length;
  if (frames < 512 || !isJointSharp(plane)) return;
  const among = frames - 4 - sharpPlaces(frames),
    inside = quickselect(bendsInside(plane), among)[among],
    level = plane[0];
  let least = sharpestJoint(plane),
    best: Float32Array | null = null;
  for (const lead of leadFrames) {
    const before = plane.slice(frames - lead),
      eased = before.map((value, k) => value + smootherstep((k + 1) / (lead + 1)) * (level - value));
    if (energy(eased) > Math.max(energy(before), energy(plane.subarray(0, lead)))) continue;
    plane.set(eased, frames - lead);
    const sharpest = sharpestJoint(plane, lead);
    if (sharpest < least) [least, best] = [sharpest, eased];
    plane.set(before, frames - lead);
    if (least <= inside) break;
  }
  if (best) plane.set(best, frames - best.length);
}

const energy = (part: Float32Array): number => part.reduce((sum, value) => sum + value * value, 0);
