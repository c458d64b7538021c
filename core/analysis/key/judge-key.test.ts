import { chord, rateHz } from '../../../test/generators/signals';
import { keyName } from '../../theory/key';
import { hear } from '../listen/hear';
import { judgeKey } from './judge-key';
import { keyFeatureCount, keyFeatures, sharedKeyFeatures } from './key-features';

/** Chords of a second each, one after the other. */
const progression = (chords: readonly (readonly number[])[]): Float32Array => {
  const sound = new Float32Array(chords.length * rateHz);
  chords.forEach((notes, k) => sound.set(chord(notes, 1), k * rateHz));
  return sound;
};
const sharedOf = (chords: readonly (readonly number[])[]) => {
  const heard = hear({ sampleRateHz: rateHz, channels: [progression(chords)] });
  return sharedKeyFeatures(heard.notes, 0, chords.length);
};

describe('textbook progressions (any harmony handbook)', () => {
  test.each<[string, number[][]]>([
    [
      'C major',
      [
        [48, 60, 64, 67],
        [41, 60, 65, 69],
        [43, 59, 62, 67],
        [48, 60, 64, 67],
      ],
    ],
    [
      'A minor',
      [
        [45, 60, 64, 69],
        [50, 62, 65, 69],
        [40, 59, 64, 68],
        [45, 60, 64, 69],
      ],
    ],
    [
      'G major',
      [
        [43, 59, 62, 67],
        [50, 57, 62, 66],
        [40, 59, 64, 67],
        [48, 60, 64, 67],
      ],
    ],
    // The cadence of minor: iiø V7 i i.
    [
      'C minor',
      [
        [38, 60, 65, 68],
        [43, 59, 62, 65],
        [36, 60, 63, 67],
        [36, 60, 63, 67],
      ],
    ],
    // A borrowed subdominant: I IV iv I.
    [
      'F major',
      [
        [41, 60, 65, 69],
        [46, 58, 62, 65],
        [46, 58, 61, 65],
        [41, 60, 65, 69],
      ],
    ],
    [
      'E minor',
      [
        [40, 59, 64, 67],
        [45, 57, 60, 64],
        [47, 59, 63, 66],
        [40, 59, 64, 67],
      ],
    ],
  ])('%s', (name, chords) => expect(keyName(judgeKey(sharedOf(chords))[0].value)).toBe(name));
  test('a turnaround that never sounds its tonic chord (iii VI7 ii V7) is left open, with its key among the first two', () => {
    const [first, second] = judgeKey(
      sharedOf([
        [40, 62, 67, 71],
        [45, 61, 64, 67],
        [38, 60, 65, 69],
        [43, 59, 62, 65],
      ]),
    );
    expect([first, second].map(({ value }) => keyName(value))).toContain('C major');
    expect(first.probability).toBeLessThan(0.75);
  });
  test('all 24 keys are weighed, and their chances sum to 1', () => {
    const keys = judgeKey(sharedOf([[48, 60, 64, 67]]));
    expect(keys).toHaveLength(24);
    expect(keys.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 5);
  });
  test('however plain a key sounds, once in a while the sound misleads: no key is called certain, and near keys keep more than far ones', () => {
    const keys = judgeKey(
        sharedOf([
          [48, 60, 64, 67],
          [53, 60, 65, 69],
          [43, 59, 62, 67],
          [48, 60, 64, 67],
        ]),
      ),
      chance = (name: string) => keys.find(({ value }) => keyName(value) === name)?.probability ?? 0;
    expect(keyName(keys[0].value)).toBe('C major');
    expect(keys[0].probability).toBeLessThan(0.99);
    expect(chance('G major') + chance('F major')).toBeGreaterThan(chance('F♯ major') + chance('B major'));
    expect(chance('F♯ major')).toBeGreaterThan(0);
  });
});

test('features turn with the music: all a fourth higher, seen from a fourth higher, is nearly the same', () => {
  const chords = [
    [48, 60, 64, 67],
    [45, 60, 64, 69],
    [41, 60, 65, 69],
    [43, 59, 62, 67],
  ];
  const here = keyFeatures(sharedOf(chords), 0),
    there = keyFeatures(sharedOf(chords.map((notes) => notes.map((note) => note + 5))), 5);
  expect(here).toHaveLength(keyFeatureCount);
  const away = here.map((value, k) => Math.abs(value - there[k])).reduce((a, b) => a + b, 0) / here.length;
  expect(away).toBeLessThan(0.02);
});

test('silence has features, all of them numbers', () => {
  const heard = hear({ sampleRateHz: rateHz, channels: [new Float32Array(rateHz)] });
  expect(keyFeatures(sharedKeyFeatures(heard.notes, 0, 1), 3).every(Number.isFinite)).toBe(true);
});
