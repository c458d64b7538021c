import type { TimeMap } from './time-map';

/**
 * Lines that hits are played on, in parts of a beat, and how near a hit must be to belong to one, in seconds: sixteenths and sixteenth
 * triplets. A hit that is twice as far from all of them belongs to none.
 */
const lines: readonly { readonly perBeat: number; readonly reachSeconds: number }[] = [
  { perBeat: 4, reachSeconds: 0.008 },
  { perBeat: 6, reachSeconds: 0.005 },
];

/** Hits never come closer together than this share of what even stretching would leave between them. */
const leastShare = 0.5;

/**
 * Where each hit goes. A hit near a line of the grid goes with its line and keeps its distance from it as it is, in milliseconds: how long
 * a drum takes to speak, how late a player sits, and by how much the onset was found beside the hit do not grow with the length of a bar.
 * What lies between the lines goes where the map sends it, with no jump from the one to the other.
 * @param onsetFrames ascending frames of the lap
 * @param beats of the lap; 0 where they are not known, and then everything goes where the map sends it
 * @returns whole frames of the target, ascending wherever even stretching would ascend
 */
export function placeHits(onsetFrames: readonly number[], map: TimeMap, beats: number, sampleRateHz: number): number[] {
  const even = onsetFrames.map((frame) => map.toTarget(frame));
  if (!(beats > 0)) return even.map(Math.round);
  const places = onsetFrames.map((frame, index) => {
    const { line, kept } = lineOf(frame, even[index], map, beats, sampleRateHz);
    return kept * (map.toTarget(line) + frame - line) + (1 - kept) * even[index];
  });
  for (let changed = true, round = 0; changed && round < 4; round++) {
    changed = false;
    for (let index = 0; index < places.length; index++) {
      const next = (index + 1) % places.length,
        lap = next === 0 ? map.targetFrames : 0;
      if (places[next] + lap - places[index] >= leastShare * (even[next] + lap - even[index])) continue;
      changed ||= places[index] !== even[index] || places[next] !== even[next];
      places[index] = even[index];
      places[next] = even[next];
    }
  }
  return places.map(Math.round);
}

/** The frame of the lap on which the line of a hit lies, and how much of its distance is kept: less and less beyond the line's reach. */
function lineOf(
  frame: number,
  evenPlace: number,
  map: TimeMap,
  beats: number,
  sampleRateHz: number,
): { readonly line: number; readonly kept: number } {
  const beat = (evenPlace / map.targetFrames) * beats,
    near = lines.map(({ perBeat, reachSeconds }) => {
      const line = map.toSource((Math.round(beat * perBeat) / perBeat / beats) * map.targetFrames);
      return { line, reaches: Math.abs(frame - line) / (reachSeconds * sampleRateHz) };
    }),
    { line, reaches } =
      near.find((each) => each.reaches <= 1) ?? near.reduce((nearest, each) => (each.reaches < nearest.reaches ? each : nearest));
  return { line, kept: Math.max(0, Math.min(1, 2 - reaches)) };
}
