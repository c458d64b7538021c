import { hits, rateHz } from '../../../test/generators/signals';
import { hear, type Heard } from '../listen/hear';
import { measurePulse, pulsePeriods, rhythmCandidates, tempoRange } from './candidates';
import { rhythmFeatureCount, rhythmFeatures, sharedRhythmFeatures } from './candidate-features';

const beat = 60 / 132;
const times = Array.from({ length: 32 }, (_, k) => k * (beat / 2) + 0.001);
const heardOf = (sound: Float32Array) => hear({ sampleRateHz: rateHz, channels: [sound] });
let exact: Heard;
beforeAll(() => {
  exact = heardOf(hits(times, 16 * beat));
});

test('eighths at 132 over four bars: the tempo is among the pulses within 0.5 %, half and double among the candidates', () => {
  const pulse = measurePulse(exact.onsets);
  expect(pulsePeriods(pulse, 8).some((period) => Math.abs(60 / period / 132 - 1) < 0.005)).toBe(true);
  const candidates = rhythmCandidates(exact, pulse, []);
  for (const [tempo, bars] of [
    [132, 4],
    [66, 2],
  ])
    expect(
      candidates.some(
        (each) => Math.abs(each.tempoBpm / tempo - 1) < 0.001 && each.bars === bars && each.meter === '4/4' && each.startSeconds === 0,
      ),
    ).toBe(true);
});

test('silence in front is offered as a start of its own, to the millisecond', () => {
  const late = new Float32Array(Math.round((16 * beat + 0.031) * rateHz));
  late.set(hits(times, 16 * beat).subarray(0, late.length - Math.round(0.031 * rateHz)), Math.round(0.031 * rateHz));
  const heard = heardOf(late),
    starts = new Set(rhythmCandidates(heard, measurePulse(heard.onsets), []).map((each) => each.startSeconds));
  expect([...starts].some((start) => Math.abs(start - 0.032) < 0.002)).toBe(true);
});

test('a tail does not hide the tempo: the pulse offers what the length cannot', () => {
  const tailed = new Float32Array(Math.round((16 * beat + 1.3) * rateHz));
  tailed.set(hits(times, 16 * beat));
  const heard = heardOf(tailed);
  expect(
    rhythmCandidates(heard, measurePulse(heard.onsets), []).some((each) => Math.abs(each.tempoBpm / 132 - 1) < 0.003 && each.bars === 4),
  ).toBe(true);
});

test('where the last notes are let go, whole tempos are offered that end there', () => {
  // Nothing has a pulse, and the file is longer than the music by a tail.
  const pulse = measurePulse(heardOf(new Float32Array(9 * rateHz)).onsets),
    span = { fileSeconds: 9, firstSoundSeconds: 0, lastSoundSeconds: 8.9, endFallDb: 0, endLevelDb: -40, leadLevelDb: 0 },
    released = rhythmCandidates({ span }, pulse, [{ seconds: 16 * (60 / 127) - 0.03, bend: 20 }]).filter(
      ({ source }) => source === 'release',
    );
  expect(released.some(({ tempoBpm, bars, meter }) => tempoBpm === 127 && bars === 4 && meter === '4/4')).toBe(true);
  expect(released.length).toBeLessThanOrEqual(48);
});

test('a named tempo is a candidate with its half and double, within the range', () => {
  const named = rhythmCandidates(exact, measurePulse(exact.onsets), [], [97]).map((each) => each.tempoBpm);
  expect(named).toEqual(expect.arrayContaining([97, 194]));
  for (const tempo of named) {
    expect(tempo).toBeGreaterThanOrEqual(tempoRange.low);
    expect(tempo).toBeLessThanOrEqual(tempoRange.high);
  }
});

test.each([
  ['silence', new Float32Array(rateHz)],
  ['one frame', new Float32Array(1).fill(0.5)],
  ['steady noise', Float32Array.from({ length: rateHz * 2 }, (_, k) => Math.sin(k * k * 0.37) * 0.5)],
  ['DC', new Float32Array(rateHz).fill(0.7)],
])('%s: features are numbers, as many as promised', (_, sound) => {
  const heard = heardOf(sound),
    pulse = measurePulse(heard.onsets),
    shared = sharedRhythmFeatures(heard, pulse);
  for (const candidate of rhythmCandidates(heard, pulse, shared.releases, [120])) {
    const features = rhythmFeatures(shared, candidate);
    expect(features).toHaveLength(rhythmFeatureCount);
    expect(features.every(Number.isFinite)).toBe(true);
  }
});
