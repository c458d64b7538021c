import { median } from 'd3-array';
import type { TimeMap } from './time-map';

/**
 * Lines that hits are played on, in parts of a beat, and how near a hit must be to belong to one, in seconds: sixteenths and sixteenth
 * triplets. A hit that is twice as far from all of them belongs to none.
 */
const lines: readonly { readonly perBeat: number; readonly reachSeconds: number }[] = [
  { perBeat: 4, reachSeconds: 0.008 },
  { perBeat: 6, reachSeconds: 0.005 },
];

/** So near to each other in the half beat, in seconds of the source, hits beside the lines are on a line of the player's own: a swing. */
const swungReachSeconds = 0.006;
/** And so many of them it takes. */
const leastSwung = 3;

/** Hits never come closer together than this share of what even stretching would leave between them. */
const leastShare = 0.5;

/**
 * Where each hit goes. A hit near a line of the grid goes with its line and keeps its distance from it as it is, in milliseconds: how long
 * a drum takes to speak, how late a player sits, and by how much the onset was found beside the hit do not grow with the length of a bar.
 * Hits that come together beside the lines, half beat by half beat, have a line of their own there. What else lies between goes where the map
 * sends it, less how late the cycle's hits mostly are, which does not grow either; with no jump from the one to the other.
 * @param onsetFrames ascending frames of the cycle
 * @param beats of the cycle; 0 where they are not known, and then everything goes where the map sends it
 * @returns whole frames of the target, ascending wherever even stretching would ascend
 */
export function placeHits(onsetFrames: readonly number[], map: TimeMap, beats: number, sampleRateHz: number): number[] {
  const even = onsetFrames.map((frame) => map.toTarget(frame));
  if (!(beats > 0)) return even.map(Math.round);
  const near = onsetFrames.map((frame, index) => lineOf(frame, even[index], map, beats, sampleRateHz)),
    lateFrames = median(near.flatMap(({ line, kept }, index) => (kept === 1 ? [onsetFrames[index] - line] : []))) ?? 0,
    swung = swungLines(
      even.map((place, index) => (near[index].kept < 1 ? place : null)),
      map,
      beats,
      lateFrames,
      sampleRateHz,
    );
  const places = onsetFrames.map((frame, index) => {
    const { line, kept } = near[index],
      other = swung[index] ?? frame - lateFrames;
    return kept * (map.toTarget(line) + frame - line) + (1 - kept) * (map.toTarget(other) + frame - other);
  });
  for (let changed = true, round = 0; changed && round < 4; round++) {
    changed = false;
    for (let index = 0; index < places.length; index++) {
      const next = (index + 1) % places.length,
        cycle = next === 0 ? map.targetFrames : 0;
      if (places[next] + cycle - places[index] >= leastShare * (even[next] + cycle - even[index])) continue;
      changed ||= places[index] !== even[index] || places[next] !== even[next];
      places[index] = even[index];
      places[next] = even[next];
    }
  }
  return places.map(Math.round);
}

/** The frame of the cycle on which the line of a hit lies, and how much of its distance is kept: less and less beyond the line's reach. */
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

/**
 * The lines that a player who swings has beside those of the grid: where, in the half beat, at least three hits lie together.
 * @param evenPlaces where even stretching sends each hit; null for those that have a line of the grid
 * @param lateFrames how much later than their lines the cycle's hits are found
 * @returns for each hit the frame of the cycle on which its own line lies, or null
 */
function swungLines(
  evenPlaces: readonly (number | null)[],
  map: TimeMap,
  beats: number,
  lateFrames: number,
  sampleRateHz: number,
): (number | null)[] {
  const halfBeat = map.targetFrames / beats / 2,
    reach = (swungReachSeconds * sampleRateHz * map.targetFrames) / map.sourceFrames,
    phases = evenPlaces.map((place) => place !== null && place - Math.floor(place / halfBeat) * halfBeat);
  return evenPlaces.map((place, index) => {
    const phase = phases[index];
    if (place === null || phase === false) return null;
    const together = phases.filter((each): each is number => each !== false && Math.abs(each - phase) <= reach);
    return together.length < leastSwung ? null : map.toSource(place - phase + (median(together) ?? 0)) - lateFrames;
  });
}
