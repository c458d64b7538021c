import { beatsToSeconds } from '../../units/time';
import type { Reading } from '../tempo/read-rhythm';

/** Where the beats of a live player fall. */
export interface BeatMap {
  /** Seconds of the file, one a beat, and the line after the last. */
  readonly beatSeconds: readonly number[];
  /** The farthest that a beat lies from the even grid, ms. */
  readonly farthestMs: number;
}

/** A hit belongs to the beat when it is no farther from it than this share of a beat. */
const reachBeats = 0.16,
  /** How far, in beats, neighbours speak for a beat: time wanders over bars, not from hit to hit. */
  kernelBeats = 0.9,
  fewestBeats = 6,
  /** Less than this nobody hears as wandering. */
  leastMs = 6,
  /** The neighbours must explain at least this share of how a beat's hits stray, or it's looseness and not wandering. */
  leastExplained = 0.45;

/**
 * The time of a player that wanders about the even grid, or null where it doesn't: each beat with a hit has a distance from the grid, and
 * a smooth curve through its neighbours' distances, itself left out, either foretells it (wandering) or doesn't (loose playing, swing,
 * a machine). The curve is closed: the line after the last beat is the first one of the repetition.
 */
export function beatMapOf({ tempoBpm, beats, startSeconds }: Reading, onsetSeconds: readonly number[]): BeatMap | null {
  const beatSeconds = beatsToSeconds(1, tempoBpm);
  let curve = new Float64Array(beats),
    strays: (number | null)[] = [];
  // The first look finds hits near the even grid; the second near the curve, and so farther from the grid.
  for (let look = 0; look < 2; look++) {
    strays = Array.from({ length: beats }, (_, beat) => {
      const expected = startSeconds + beat * beatSeconds + curve[beat];
      let nearest: number | null = null;
      for (const at of onsetSeconds)
        if (
          Math.abs(at - expected) < reachBeats * beatSeconds &&
          (nearest === null || Math.abs(at - expected) < Math.abs(nearest - expected))
        )
          nearest = at;
      return nearest === null ? null : nearest - (startSeconds + beat * beatSeconds);
    });
    curve = Float64Array.from({ length: beats }, (_, beat) => foretold(strays, beat, true));
  }
  const known = strays.flatMap((stray, beat) => (stray === null ? [] : [{ stray, beat }]));
  if (known.length < fewestBeats || known.length < beats * 0.5) return null;
  const mean = known.reduce((sum, { stray }) => sum + stray, 0) / known.length,
    all = known.reduce((sum, { stray }) => sum + (stray - mean) ** 2, 0),
    left = known.reduce((sum, { stray, beat }) => sum + (stray - foretold(strays, beat, false)) ** 2, 0);
  const spreadMs = Math.sqrt(curve.reduce((sum, value) => sum + (value - mean) ** 2, 0) / beats) * 1000;
  if (spreadMs < leastMs || left > all * (1 - leastExplained)) return null;
  const lines = [...curve, curve[0]].map((away, beat) => startSeconds + beat * beatSeconds + away);
  return { beatSeconds: lines, farthestMs: Math.max(...curve.map(Math.abs)) * 1000 };
}

/** The distance that neighbours within a few beats, going round, give a beat: their mean, the nearer the heavier. */
function foretold(strays: readonly (number | null)[], beat: number, withItself: boolean): number {
  const reach = Math.min(4, Math.floor((strays.length - 1) / 2));
  let sum = 0,
    weights = 0;
  for (let away = -reach; away <= reach; away++) {
    const stray = strays[(beat + away + strays.length) % strays.length];
    if (stray === null || (away === 0 && !withItself)) continue;
    const weight = Math.exp(-0.5 * (away / kernelBeats) ** 2);
    sum += weight * stray;
    weights += weight;
  }
  return weights > 0 ? sum / weights : 0;
}

/**
 * Whether a map of beats is of the reading that holds now: one beat more than there are, the first where bar 1 begins (to half a beat). At another
 * length, tempo or first bar it is void.
 */
export function beatMapHolds(
  beatSeconds: readonly number[],
  {
    beats,
    tempoBpm,
    firstBarSeconds,
  }: { readonly beats: number | null; readonly tempoBpm: number | null; readonly firstBarSeconds: number },
): boolean {
  if (!beats || !tempoBpm || beatSeconds.length !== beats + 1) return false;
  return Math.abs(beatSeconds[0] - firstBarSeconds) < beatsToSeconds(0.5, tempoBpm);
}
