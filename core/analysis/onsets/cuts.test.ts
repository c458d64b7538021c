import { hits, rateHz } from '../../../test/generators/signals';
import { cutsOf } from './cuts';
import { onsetRises } from './onsets';

/** A hit each half second, and between two of them one that is drowned in a noise of its own level. */
const drowned = (gain: number): Float32Array[] => {
  let seed = 9;
  const random = () => (seed = (seed * 16807) % 2147483647) / 2147483647 - 0.5,
    loud = hits([0.25, 0.75, 1.75], 2),
    soft = hits([1.25], 2);
  return [Float32Array.from(loud, (value, i) => value + gain * soft[i] + 0.05 * random())];
};
const cuts = (sound: readonly Float32Array[]) => cutsOf(onsetRises(sound, rateHz), sound),
  near = (frames: readonly number[], seconds: number) => frames.some((frame) => Math.abs(frame / rateHz - seconds) < 0.012);

test('what rises clearly is a clear hit, and no faint one is near it', () => {
  const { clearFrames, faintFrames } = cuts(drowned(1));
  for (const seconds of [0.25, 0.75, 1.25, 1.75]) expect(near(clearFrames, seconds)).toBe(true);
  for (const clear of clearFrames) for (const faint of faintFrames) expect(Math.abs(clear - faint)).toBeGreaterThan(0.02 * rateHz);
});
test('what hardly rises is faint, and clear hits stay what they were', () => {
  const gains = [0.06, 0.05, 0.04, 0.03, 0.025, 0.02, 0.015],
    found = gains.map((gain) => cuts(drowned(gain)));
  expect(found.some(({ clearFrames, faintFrames }) => !near(clearFrames, 1.25) && near(faintFrames, 1.25))).toBe(true);
  for (const { clearFrames } of found) for (const seconds of [0.25, 0.75, 1.75]) expect(near(clearFrames, seconds)).toBe(true);
});
test('silence and next to nothing have neither', () => {
  expect(cuts([new Float32Array(rateHz)])).toEqual({ clearFrames: [], faintFrames: [] });
  expect(cuts([new Float32Array(10)])).toEqual({ clearFrames: [], faintFrames: [] });
});
