import { hits, rateHz, sine } from '../../../test/generators/signals';
import { hear, type Heard } from '../listen/hear';
import {
  rhythmFeatureCount,
  rhythmFeatures,
  sharedRhythmFeatures,
  sharesNearGrids,
  strengthOnParts,
  type SharedRhythmFeatures,
} from './candidate-features';
import { measurePulse, type RhythmCandidate } from './candidates';

const heardOf = (sound: Float32Array): Heard => hear({ channels: [sound], sampleRateHz: rateHz }),
  sharedOf = (heard: Heard): SharedRhythmFeatures => sharedRhythmFeatures(heard, measurePulse(heard.onsets)),
  reading = (over: Partial<RhythmCandidate> = {}): RhythmCandidate => ({
    tempoBpm: 120,
    bars: 2,
    meter: '4/4',
    startSeconds: 0,
    source: 'length',
    ...over,
  }),
  /** Two bars at 120: quarters, and eighths between them half as often. */
  times = [0, 0.5, 0.75, 1, 1.5, 2, 2.5, 2.75, 3, 3.5];
let shared: SharedRhythmFeatures;
beforeAll(() => (shared = sharedOf(heardOf(hits(times, 4)))));

/** All bands together. */
const allBands = 4;

test('there are as many features as the networks expect, whatever the reading', () => {
  for (const candidate of [reading(), reading({ meter: '3/4', bars: 8, tempoBpm: 180 }), reading({ meter: '6/8', bars: 1, tempoBpm: 51 })])
    expect(rhythmFeatures(shared, candidate)).toHaveLength(rhythmFeatureCount);
});

test('at the right tempo the beats are stronger than the halves, and those stronger than the quarters of a beat', () => {
  const [beats, halves, quarters] = strengthOnParts(shared, reading(), allBands);
  expect(beats).toBeGreaterThan(halves);
  expect(halves).toBeGreaterThan(quarters);
});

test('at a wrong tempo the beats are weaker', () => {
  const wrong = reading({ tempoBpm: 133, bars: 2 });
  expect(strengthOnParts(shared, wrong, allBands)[0]).toBeLessThan(strengthOnParts(shared, reading(), allBands)[0]);
});

test('a reading that starts beside the first hit has its hits off the grid', () => {
  const late = reading({ startSeconds: 0.13 }),
    // Share of onsets near a grid of one a beat, more than chance would have there.
    nearBeats = (candidate: RhythmCandidate) => sharesNearGrids(shared, candidate)[0];
  expect(nearBeats(reading())).toBeGreaterThan(nearBeats(late) + 0.3);
});

test('onsets on which the beats fall are found to the millisecond', () => {
  expect(shared.onsetSeconds).toHaveLength(times.length);
  times.forEach((seconds, k) => expect(Math.abs(shared.onsetSeconds[k] - seconds)).toBeLessThan(0.012));
});

test.each<readonly [string, Float32Array]>([
  ['silence', new Float32Array(2 * rateHz)],
  ['a held tone', sine(220, 2)],
  ['one sample', Float32Array.of(0.5)],
  ['a constant', new Float32Array(rateHz).fill(0.3)],
])('%s gives finite features', (_, sound) => {
  const features = rhythmFeatures(sharedOf(heardOf(sound)), reading({ bars: 1 }));
  expect(features).toHaveLength(rhythmFeatureCount);
  expect(features.every(Number.isFinite)).toBe(true);
});
