import { createRandom } from '../../synth/random';
import { periodByHits } from './hit-grid';

/** Hits on these sixteenths of a beat's period, `beats` long, off by up to `looseMs`. */
function played(tempoBpm: number, beats: number, pattern: readonly number[], looseMs = 0, seed = 1): number[] {
  const random = createRandom(seed),
    step = 60 / tempoBpm / 4;
  return Array.from({ length: beats }, (_, beat) => pattern.map((at) => (beat * 4 + at) * step + 0.01 + ((random() - 0.5) * looseMs) / 500))
    .flat()
    .sort((a, b) => a - b);
}
const tempo = (hits: readonly number[], roughBpm: number, strengths = hits.map(() => 10)): number =>
  60 / periodByHits(hits, strengths, 60 / roughBpm);

test.each([0.99, 0.995, 1.004, 1.01])('a pulse that is off by × %d is put right by hits on eighths, over a bar and over eight', (off) => {
  for (const beats of [4, 8, 32]) expect(tempo(played(119, beats, [0, 2]), 119 * off)).toBeCloseTo(119, 4);
});
test('human timing is averaged out', () => {
  for (let seed = 1; seed < 12; seed++) expect(Math.abs(tempo(played(146, 8, [0, 2], 8, seed), 147) / 146 - 1)).toBeLessThan(0.004);
});
test('swung sixteenths do not change the period', () => {
  const swung = played(96, 16, [0, 1.2, 2, 3.2]);
  expect(Math.abs(tempo(swung, 95.5) / 96 - 1)).toBeLessThan(0.002);
});
test.each([7, 2])('soft hits and what follows a hit at once, %d against 12, are left out', (soft) => {
  const hits = played(162, 8, [0, 2]).flatMap((time) => [time, time + 0.02, time + 0.041]),
    strengths = hits.map((_, k) => (k % 3 === 0 ? 12 : soft));
  expect(tempo(hits, 161.4, strengths)).toBeCloseTo(162, 3);
});
test('too few hits, none, and hits in no order leave the pulse as it is', () => {
  expect(tempo(played(120, 2, [0, 2]), 119)).toBeCloseTo(119, 9);
  expect(tempo([], 119)).toBeCloseTo(119, 9);
  const random = createRandom(5),
    anyhow = Array.from({ length: 40 }, () => random() * 12).sort((a, b) => a - b);
  expect(tempo(anyhow, 119)).toBeCloseTo(119, 9);
});
test('another pulse than the one that was given is not taken: a triplet grid stays what it is', () => {
  const triplets = played(120, 16, [0, 4 / 3, 8 / 3]);
  for (const rough of [90, 160, 80]) expect(Math.abs(tempo(triplets, rough) / rough - 1)).toBeLessThan(0.021);
});
