const sampledEvery = 5,
  /** A joint of −80 dBFS is none, however smooth the rest is. */
  inaudible = 1e-4;

/**
 * How the end of a loop joins its start, in dB: the third difference across the joint, a measure of a click, against the one that a
 * thousandth of all places inside exceeds. Up to 0 nothing stands out; above it there is a click where the loop repeats. null for what is
 * too short or silent.
 * @param endFrame one past the last; a file that ends a little earlier goes on with silence
 */
export function seamDb(channels: readonly Float32Array[], startFrame: number, endFrame: number): number | null {
  const frames = endFrame - startFrame;
  if (frames < 512) return null;
  let worst: number | null = null;
  for (const plane of channels) {
    const at = (place: number): number => plane[startFrame + (((place % frames) + frames) % frames)] ?? 0,
      third = (place: number): number => Math.abs(at(place + 3) - 3 * at(place + 2) + 3 * at(place + 1) - at(place));
    const inside = new Float32Array(Math.floor((frames - 8) / sampledEvery));
    for (let k = 0; k < inside.length; k++) inside[k] = third(2 + k * sampledEvery);
    inside.sort();
    const most = inside[inside.length - 1];
    if (most < 1e-9) continue;
    const usual = Math.max(inaudible, inside[Math.floor(inside.length * 0.999)]);
    const joint = Math.max(third(-1), third(-2), third(-3)),
      db = 20 * Math.log10((joint + 1e-9) / usual);
    if (worst === null || db > worst) worst = db;
  }
  return worst;
}
