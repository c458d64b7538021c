import { hits, rateHz, sine } from '../../../test/generators/signals';
import { sharpenOnsets } from './sharpen';

const times = [0.1, 0.35, 0.6, 0.9];

test('onsets that are 5 ms off come to within half a millisecond of the hit', () => {
  const sound = hits(times, 1.2),
    sharp = sharpenOnsets(
      [sound],
      rateHz,
      times.map((time, k) => Math.round((time + (k % 2 ? 0.005 : -0.005)) * rateHz)),
    );
  sharp.forEach((frame, k) => expect(Math.abs(frame / rateHz - times[k])).toBeLessThan(0.0005));
});

test('a hit over the tail of a low sound is found where it begins, not where the tail swings', () => {
  const low = sine(60, 1.2, 0.6),
    sound = hits(times, 1.2).map((value, i) => value * 0.3 + low[i]);
  sharpenOnsets(
    [sound],
    rateHz,
    times.map((time) => Math.round((time - 0.004) * rateHz)),
  ).forEach((frame, k) => expect(Math.abs(frame / rateHz - times[k])).toBeLessThan(0.001));
});

test('silence, one frame, NaN and nothing: no throw, ascending frames', () => {
  expect(sharpenOnsets([new Float32Array(5000)], rateHz, [100, 2000])).toEqual([100, 2000]);
  expect(sharpenOnsets([new Float32Array(1)], rateHz, [0])).toEqual([0]);
  expect(sharpenOnsets([new Float32Array(5000).fill(NaN)], rateHz, [2500])).toEqual([2500]);
  expect(sharpenOnsets([new Float32Array(0)], rateHz, [])).toEqual([]);
});
