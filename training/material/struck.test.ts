import { Chance } from './chance';
import { slam } from './effects';
import { blipKeys, randomHit } from './hits';
import { beatenKick, handDrum, struckMetal, struckSnare, struckTom, struckWood } from './struck';

const rateHz = 44100,
  ways = { beatenKick, handDrum, struckMetal, struckSnare, struckTom, struckWood };
type Way = keyof typeof ways;
const seeds = Array.from({ length: 24 }, (_, k) => 100 + k);

const energy = (sound: Float32Array, from = 0, to = sound.length): number =>
  sound.subarray(from, to).reduce((sum, value) => sum + value * value, 0);

/** Root mean square of the frequency: that of the sound's steps against that of the sound. */
const heightHz = (sound: Float32Array): number =>
  (Math.sqrt(energy(sound.map((value, i) => value - (sound[i - 1] ?? 0))) / energy(sound)) * rateHz) / (2 * Math.PI);
const median = (list: number[]): number => list.sort((a, b) => a - b)[Math.floor(list.length / 2)];

test.each(Object.keys(ways) as Way[])('%s: sounds, in numbers, dies away, and is the same for the same seed', (way) => {
  for (const seed of seeds) {
    const sound = ways[way](new Chance(seed), rateHz);
    expect(sound.every(Number.isFinite)).toBe(true);
    expect(energy(sound)).toBeGreaterThan(0);
    const tenth = Math.floor(sound.length / 10);
    expect(energy(sound, sound.length - tenth)).toBeLessThan(0.02 * energy(sound));
  }
  // Compared as bytes: a matcher takes seconds for as many numbers.
  const bytes = (seed: number) => Buffer.from(ways[way](new Chance(seed), rateHz).buffer);
  expect(bytes(5).equals(bytes(5))).toBe(true);
  expect(bytes(5).equals(bytes(6))).toBe(false);
});

test('a bass drum is lower than a tom, a tom lower than wood and metal', () => {
  const height = (way: Way) => median(seeds.map((seed) => heightHz(ways[way](new Chance(seed), rateHz))));
  expect(height('beatenKick')).toBeLessThan(height('struckTom'));
  expect(height('struckTom')).toBeLessThan(height('struckWood'));
  expect(height('struckTom')).toBeLessThan(height('struckMetal'));
});

test('metal rings longer than wood', () => {
  const length = (way: Way) =>
    median(
      seeds.map((seed) => {
        const sound = ways[way](new Chance(seed), rateHz),
          all = energy(sound);
        let sum = 0;
        return sound.findIndex((value) => (sum += value * value) > 0.9 * all);
      }),
    );
  expect(length('struckMetal')).toBeGreaterThan(2 * length('struckWood'));
});

test.each([36, 38, 45, 62, 76, 56, ...blipKeys])('key %i, with struck things: peak 1, at most nine seconds', (key) => {
  for (const seed of seeds.slice(0, 8)) {
    const hit = randomHit(key, new Chance(seed), rateHz, true);
    expect(hit.reduce((most, value) => Math.max(most, Math.abs(value)), 0)).toBeCloseTo(1, 5);
    expect(hit.length).toBeLessThan(9 * rateHz);
  }
});

test('a slam lasts as long as asked and falls', () => {
  for (const seed of seeds.slice(0, 8)) {
    const sound = slam(2, new Chance(seed), rateHz);
    expect(sound).toHaveLength(2 * rateHz);
    expect(energy(sound, rateHz)).toBeLessThan(energy(sound, 0, rateHz));
  }
});
