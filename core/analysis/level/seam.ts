import { ratioToDb } from '../../units/level';
/** A joint of −80 dBFS is none, however smooth the rest is. */
const inaudible = 1e-4;

/**
 * How the end of a loop joins its start, in dB: the third difference across the joint, a measure of a click, against the largest inside.
 * Up to 0 nothing stands out of what the loop does elsewhere, its hits among it; well above it there is a click where the loop repeats.
 * null for what is too short or silent.
 * @param endFrame one past the last; a file that ends a little earlier goes on with silence
 */
export function seamDb(channels: readonly Float32Array[], startFrame: number, endFrame: number): number | null {
  const frames = endFrame - startFrame;
  if (frames < 512) return null;
  let worst: number | null = null;
  for (const plane of channels) {
    const at = (place: number): number => plane[startFrame + (((place % frames) + frames) % frames)] ?? 0,
      third = (place: number): number => Math.abs(at(place + 3) - 3 * at(place + 2) + 3 * at(place + 1) - at(place));
    // Each frame is read once and handed on.
    let most = 0,
      a = plane[startFrame],
      b = plane[startFrame + 1],
      c = plane[startFrame + 2];
    for (let i = startFrame + 3, to = Math.min(endFrame, plane.length); i < to; i++) {
      const d = plane[i],
        size = Math.abs(d - a + 3 * (b - c));
      if (size > most) most = size;
      a = b;
      b = c;
      c = d;
    }
    if (most < 1e-9) continue;
    const joint = Math.max(third(-1), third(-2), third(-3)),
      db = ratioToDb((joint + 1e-9) / Math.max(inaudible, most));
    if (worst === null || db > worst) worst = db;
  }
  return worst;
}
