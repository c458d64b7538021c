import { hits, rateHz, sine } from '../../../test/generators/signals';
import { melFrames } from '../listen/mel';
import { allBand, onsetBands } from './onset-bands';

const bandsOf = (sound: Float32Array) => onsetBands(melFrames(sound, rateHz, 1));
/** A tone that is struck at some times and dies away. */
const struck = (hz: number, times: readonly number[], seconds: number): Float32Array =>
  sine(hz, seconds).map((value, i) =>
    times.reduce((sum, at) => sum + (i / rateHz >= at ? value * Math.exp(-(i / rateHz - at) / 0.05) : 0), 0),
  );
const topFrames = (values: Float32Array, count: number): number[] => {
  const left = values.slice(),
    found: number[] = [];
  for (let k = 0; k < count; k++) {
    const top = left.indexOf(left.reduce((a, b) => Math.max(a, b)));
    found.push(top);
    left.fill(0, Math.max(0, top - 8), top + 9);
  }
  return found.sort((a, b) => a - b);
};
const sum = (values: Float32Array): number => values.reduce((a, b) => a + b, 0);

test('the strongest frames are where something is struck, within 12 ms', () => {
  const times = [0.3, 0.8, 1.05, 1.7],
    { bands, hopSeconds } = bandsOf(hits(times, 2.2));
  topFrames(bands[allBand], times.length).forEach((frame, k) => expect(Math.abs(frame * hopSeconds - times[k])).toBeLessThan(0.012));
});

test.each([
  [80, 0],
  [320, 1],
  [1200, 2],
])('a tone of %i Hz that is struck stands out in its own band', (hz, band) => {
  const { bands } = bandsOf(struck(hz, [0.5, 1, 1.5], 2)),
    [first, ...rest] = topFrames(bands[band], 3);
  expect(rest).toHaveLength(2);
  // Each band has mean 1, so that what counts is how far its hits stand out.
  expect(bands[band][first]).toBeGreaterThan(8);
});

test('every band that sounds has mean 1; loud and quiet say the same; silence has none', () => {
  const sound = hits([0.2, 0.9, 1.4], 2),
    loud = bandsOf(sound).bands[allBand];
  expect(sum(loud) / loud.length).toBeCloseTo(1, 4);
  const quiet = bandsOf(sound.map((value) => value * 0.5)).bands[allBand];
  expect(topFrames(quiet, 3)).toEqual(topFrames(loud, 3));
  expect(sum(bandsOf(new Float32Array(rateHz)).bands[allBand])).toBe(0);
});

test('a tone that only stays has no onset but its first', () => {
  const { bands, hopSeconds } = bandsOf(sine(500, 2));
  const inside = bands[allBand].subarray(Math.round(0.1 / hopSeconds), Math.round(1.9 / hopSeconds));
  expect(Math.max(...inside)).toBeLessThan(0.05 * Math.max(...bands[allBand]));
});
