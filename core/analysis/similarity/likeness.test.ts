import { chord, hits, rateHz, sine } from '../../../test/generators/signals';
import { timbreVector } from '../instrument/timbre';
import { hear } from '../listen/hear';
import { likenessLength, likenessOf, unlikeness } from './likeness';
import { readProjection } from './projection';

const likeness = (sound: Float32Array) => likenessOf(timbreVector(hear({ sampleRateHz: rateHz, channels: [sound] })));
const beat = (seed: number, shift = 0) =>
  hits(
    [0, 0.5, 1, 1.25, 1.5, 2, 2.5, 3, 3.25, 3.5].map((at) => at + shift),
    4,
    seed,
  );

test('32 signed bytes that do not mind the level', () => {
  const loud = likeness(beat(1)),
    soft = likeness(beat(1).map((value) => value * 0.1));
  expect(loud).toHaveLength(likenessLength);
  expect(loud).toBeInstanceOf(Int8Array);
  expect(unlikeness(loud, loud)).toBe(0);
  expect(unlikeness(loud, soft)).toBeLessThan(0.7);
});
test('two takes of a player are nearer to each other than to another instrument', () => {
  const one = likeness(beat(1)),
    two = likeness(beat(2, 0.1)),
    chords = likeness(chord([48, 55, 60, 64], 4)),
    others = likeness(chord([50, 57, 62, 65], 4)),
    tone = likeness(sine(880, 4));
  expect(unlikeness(one, two)).toBeLessThan(unlikeness(one, chords) / 2);
  expect(unlikeness(chords, others)).toBeLessThan(unlikeness(chords, one) / 2);
  expect(unlikeness(chords, others)).toBeLessThan(unlikeness(chords, tone));
});
test('weights whose sizes do not agree are refused', () =>
  expect(() => readProjection({ made: '', inputs: 3, outputs: 2, scaling: 'AAAA', rows: 'AAAA' })).toThrow(RangeError));
