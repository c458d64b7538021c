import { joinSetting, type JoinSetting } from './joins';
import { stretchSlices, type Hits } from './slicer';
import { heldTones } from './split';
import type { TimeMap } from './time-map';
import { stretchTonal } from './vocoder';

/** Longer grains, which carry a chord better, and no dying away, which tones don't do. Set on the tuning half of `bench:audio`, November 2026. */
const mixedSetting: JoinSetting = { ...joinSetting, headShare: 0.5, grainFrames: 2048, searchFrames: 440, keepsDecay: false };

/** For hits with tones between them: cut at the hits like drums, with joins that suit tones. */
export const stretchMixed = (cycle: readonly Float32Array[], hits: Hits, map: TimeMap): Float32Array[] =>
  stretchSlices(cycle, hits, map, mixedSetting);

/**
 * For hits over tones that are held: the tones are taken out and stretched by the vocoder, all else is cut at its hits, and both are added
 * up. The tones waver half as much as by cutting; notes that are struck lose some of their edge.
 */
export function stretchApart(cycle: readonly Float32Array[], hits: Hits, map: TimeMap): Float32Array[] {
  const tones = heldTones(cycle),
    rest = cycle.map((plane, channel) => plane.map((value, i) => value - tones[channel][i])),
    made = stretchSlices(rest, hits, map, { ...joinSetting, keepsDecay: false });
  stretchTonal(tones, map).forEach((plane, channel) => {
    for (let i = 0; i < plane.length; i++) made[channel][i] += plane[i];
  });
  return made;
}
