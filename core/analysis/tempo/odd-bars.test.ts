import { drummed } from '../../../test/generators/drummed';
import { rateHz, sine } from '../../../test/generators/signals';
import { noTags } from '../../formats/tags/embedded';
import { analyseAudio } from '../analyse-audio';
import { chooseFacts } from '../evidence/choose';
import { hear } from '../listen/hear';
import { barBeatsOf, measurePulse, rhythmCandidates } from './candidates';
import { sharedRhythmFeatures } from './candidate-features';
import { oddCandidates, oddFeatureCount, oddReadings, usualRow } from './odd-bars';
import { readRhythm, rhythmRanking } from './read-rhythm';

const noFamily = new Float32Array(14);
const readingsOf = (sound: Float32Array) => {
  const heard = hear({ sampleRateHz: rateHz, channels: [sound] }),
    pulse = measurePulse(heard.onsets),
    shared = sharedRhythmFeatures(heard, pulse),
    candidates = rhythmCandidates(heard, pulse, shared.releases),
    rank = rhythmRanking(shared, noFamily);
  return oddReadings(heard, shared, { candidates, logits: rank(candidates) }, rank);
};
const factsOf = (sound: Float32Array) => {
  const { evidence, measures } = analyseAudio({ sampleRateHz: rateHz, channels: [sound] }, '', noTags, null);
  return { ...chooseFacts(evidence, { ...measures, readings: measures.detail?.readings }), detail: measures.detail };
};

test('bars of five that are played are among what is ranked, and nothing of an odd reading is without measure', () => {
  const found = readingsOf(drummed(5, 4, 118));
  expect(found.length).toBeGreaterThan(0);
  expect(found.length).toBeLessThanOrEqual(12);
  expect(
    found.some(({ candidate }) => Math.abs(candidate.tempoBpm / 118 - 1) < 0.002 && barBeatsOf(candidate) === 5 && candidate.bars === 4),
  ).toBe(true);
  for (const { features } of found) {
    expect(features).toHaveLength(oddFeatureCount);
    expect(features.every(Number.isFinite)).toBe(true);
  }
  expect(usualRow).toHaveLength(oddFeatureCount);
});
test('a tempo that a name states is tried, though no pulse has it', () => {
  const heard = hear({ sampleRateHz: rateHz, channels: [sine(220, 8.3)] }),
    shared = sharedRhythmFeatures(heard, measurePulse(heard.onsets)),
    tempos = (named: readonly number[]) => oddCandidates(heard, shared, named).map(({ tempoBpm }) => tempoBpm);
  expect(tempos([]).some((tempo) => Math.abs(tempo / 123 - 1) < 0.0005)).toBe(false);
  expect(tempos([123]).some((tempo) => Math.abs(tempo / 123 - 1) < 0.0005)).toBe(true);
});
test.each([
  ['silence', new Float32Array(4 * rateHz)],
  ['a sound shorter than two bars of anything', sine(330, 0.4)],
])('%s is no trouble', (_, sound) => {
  const { readings } = readRhythm(hear({ sampleRateHz: rateHz, channels: [sound] }), [], noFamily);
  for (const { probability } of readings) expect(probability).toBeGreaterThanOrEqual(0);
});
test('the chances of usual and odd readings together are one', () => {
  const { readings } = readRhythm(hear({ sampleRateHz: rateHz, channels: [drummed(5, 4, 118)] }), [], noFamily);
  expect(readings.reduce((sum, { probability }) => sum + probability, 0)).toBeCloseTo(1, 5);
  expect(readings.some(({ meter }) => meter === 'unknown')).toBe(true);
});

test.each([
  [5, 4, 118],
  [7, 2, 118],
  [5, 2, 96],
  [3.5, 4, 124],
  [5.5, 4, 112],
  [4.5, 4, 132],
])('bars of %d beats, %d of them at %d: the meter is told as unknown, and the bars are counted', (barBeats, bars, tempoBpm) => {
  const { meter, beats, bars: counted, tempoBpm: heard, detail, chosen } = factsOf(drummed(barBeats, bars, tempoBpm));
  expect({ meter, beats, bars: counted }).toEqual({ meter: 'unknown', beats: barBeats * bars, bars });
  expect(Math.abs((heard ?? 0) / tempoBpm - 1)).toBeLessThan(0.003);
  expect(chosen.meter?.reasons).toContain(`it comes round every ${barBeats} beats`);
  expect(detail?.groove?.accents[0]).toHaveLength(barBeats * 4);
});
test.each([
  [4, 4, 118, '4/4'],
  [4, 2, 96, '4/4'],
  [4, 1, 118, '4/4'],
  [3, 4, 118, '3/4'],
])('the same drums in bars of %d stay in a usual meter', (barBeats, bars, tempoBpm, meter) =>
  expect(factsOf(drummed(barBeats, bars, tempoBpm))).toMatchObject({ meter, beats: barBeats * bars, bars }),
);
