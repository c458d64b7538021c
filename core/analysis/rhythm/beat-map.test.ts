import { createRandom } from '../../synth/random';
import { beatMapOf } from './beat-map';

const reading = { tempoBpm: 120, beats: 16, bars: 4, meter: '4/4' as const, startSeconds: 0.1, probability: 1 };
/** Hits on every half beat, moved by `away` seconds. */
const hits = (away: (beat: number) => number): number[] =>
  Array.from({ length: 32 }, (_, k) => 0.1 + k * 0.25 + away(k / 2)).filter((at) => at >= 0);
const wave = (ms: number, beatsLong: number) => (beat: number) => (ms / 1000) * Math.sin((2 * Math.PI * beat) / beatsLong);
const normal = (seed: number) => {
  const random = createRandom(seed);
  return () => (random() + random() + random() + random() - 2) * Math.sqrt(3);
};

test.each([
  [20, 16],
  [35, 16],
  [25, 8],
])('time that wanders by ±%i ms over %i beats is followed within 7 ms', (ms, beatsLong) => {
  const away = wave(ms, beatsLong),
    map = beatMapOf(reading, hits(away));
  expect(map).not.toBeNull();
  map?.beatSeconds.slice(0, 16).forEach((at, beat) => expect(Math.abs(at - (0.1 + beat * 0.5 + away(beat)))).toBeLessThan(0.007));
  expect(Math.abs((map?.farthestMs ?? 0) - ms)).toBeLessThan(7);
});
test('the map closes: the line after the last beat lies where the first does, a loop later', () => {
  const map = beatMapOf(reading, hits(wave(30, 16)));
  expect(map?.beatSeconds).toHaveLength(17);
  expect((map?.beatSeconds[16] ?? 0) - (map?.beatSeconds[0] ?? 0)).toBeCloseTo(8, 6);
});
test('wandering is heard through loose hands', () => {
  const random = normal(3),
    away = wave(25, 16);
  const map = beatMapOf(
    reading,
    hits((beat) => away(beat) + 0.005 * random()),
  );
  expect(map).not.toBeNull();
});
test('a machine does not wander, swung or straight', () => {
  expect(
    beatMapOf(
      reading,
      hits(() => 0),
    ),
  ).toBeNull();
  expect(
    beatMapOf(
      reading,
      hits((beat) => (beat % 1 ? 0.08 : 0)),
    ),
  ).toBeNull();
});
test('loose hands alone are seldom taken for wandering', () => {
  const taken = Array.from({ length: 60 }, (_, seed) => {
    const random = normal(seed + 10);
    return beatMapOf(
      reading,
      hits(() => 0.009 * random()),
    );
  }).filter((map) => map !== null);
  expect(taken.length).toBeLessThanOrEqual(3);
});
test('with few hits on beats nothing is said', () => expect(beatMapOf(reading, [0.1, 0.62, 1.13])).toBeNull());
