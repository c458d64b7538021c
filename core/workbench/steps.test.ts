import { integratedLoudness, samplePeakDbfs } from '../analysis/loudness/loudness';
import { loadTransforms } from '../dsp/real-fft';
import { projectRateHz } from '../units/time';
import type { BenchSetting, BenchSound } from './bench-sound';
import { nothingCleaned, type CleanStep } from './clean';
import { factsOfSteps } from './facts-of-steps';
import { zeroCrossingNear } from './part';
import { parseSmf } from '../formats/smf/parse';
import { patternAsPlayed, slicesOf, writeSlicePattern } from './slices';
import { applySteps, settingAfter, type Step } from './steps';

beforeAll(loadTransforms);

const setting: BenchSetting = {
    tempoBpm: 120,
    beats: 4,
    barBeats: 4,
    key: { tonic: 2, mode: 'minor' },
    startFrame: 0,
    onsetFrames: [0, 22050, 44100, 66150],
    isCycle: true,
  },
  /** Four hits a beat apart at 120, each lower than the one before, so that they are told apart. */
  hits = Float32Array.from({ length: 88_200 }, (_, i) => {
    const beat = Math.floor(i / 22050),
      t = (i % 22050) / projectRateHz;
    return 0.5 * Math.exp(-t * 12) * Math.sin(2 * Math.PI * (800 / (beat + 1)) * t);
  }),
  tone = (hz: number, seconds = 2, level = 0.3) =>
    Float32Array.from({ length: Math.round(seconds * projectRateHz) }, (_, i) => level * Math.sin((2 * Math.PI * hz * i) / projectRateHz)),
  made = (channels: readonly Float32Array[], ...steps: Step[]): BenchSound => applySteps(channels, steps, setting),
  power = (plane: Float32Array, from = 0, to = plane.length) =>
    plane.subarray(from, to).reduce((sum, value) => sum + value * value, 0) / (to - from),
  db = (ratio: number) => 10 * Math.log10(ratio + 1e-15),
  cleaned = (plane: Float32Array, changes: Partial<CleanStep>) => made([plane], { ...nothingCleaned, ...changes });

test('no step writes into what it was given, and none makes it another length unasked', () => {
  const before = hits.slice(),
    all: Step[] = [
      {
        ...nothingCleaned,
        removesDc: true,
        lowCutHz: 60,
        highCutHz: 9000,
        gateDbfs: -60,
        width: 1.5,
        fadeOutMs: 5,
        normalise: { by: 'peak', toDb: -1 },
      },
      { kind: 'grid', strength: 1, stepsPerBeat: 4, swing: 0.6, byHand: [], keeps: 'hits' },
      { kind: 'slices', stepsPerBeat: 4, hits: [{ step: 0, slice: 1, velocity: 1, reverse: false }] },
      { kind: 'retune', semitones: 2, keepsFormants: false, formantSemitones: 0 },
      { kind: 'layers', layers: [{ semitones: -12, gainDb: -6, pan: 0.5, delayBeats: 0.5, lowCutHz: 80 }] },
      { kind: 'line', strength: 1, straightness: 1, key: null, moves: {}, formantSemitones: 0 },
    ];
  for (const step of all) {
    const { channels } = made([hits, hits], step);
    expect(channels.every((plane) => plane.length === hits.length && plane.every(Number.isFinite))).toBe(true);
  }
  expect(hits).toEqual(before);
  expect(made([hits]).channels[0]).toBe(hits);
});

describe('of what no loop should be, nothing that is no sound', () => {
  const frames = 13_230,
    of = (at: (i: number) => number) => Float32Array.from({ length: frames }, (_, i) => at(i)),
    extremes: readonly (readonly [string, Float32Array, readonly number[]])[] = [
      ['silence', of(() => 0), []],
      ['DC', of(() => 0.5), []],
      ['a lone click', of((i) => (i === 5000 ? 1 : 0)), [5000]],
      ['a hit on the first frame', of((i) => Math.exp(-i / 900) * Math.cos(i * 0.3)), [0]],
      ['a full-scale square', of((i) => (i % 300 < 150 ? 1 : -1)), []],
      ['a hit on the last frames', of((i) => (i > frames - 40 ? 0.9 : 0)), [frames - 40]],
    ],
    steps: readonly (readonly [string, Step])[] = [
      ['onto the grid', { kind: 'grid', strength: 1, stepsPerBeat: 4, swing: 0.6, byHand: [], keeps: 'hits' }],
      ['onto the grid, smoothly', { kind: 'grid', strength: 1, stepsPerBeat: 3, swing: 0.5, byHand: [], keeps: 'tones' }],
      ['a line', { kind: 'line', strength: 1, straightness: 1, key: { tonic: 0, mode: 'minor' }, moves: { 0: 3 }, formantSemitones: 5 }],
      ['retuned', { kind: 'retune', semitones: -7, keepsFormants: true, formantSemitones: 3 }],
      ['slices', { kind: 'slices', stepsPerBeat: 4, hits: [{ step: 1, slice: 0, velocity: 1, reverse: true }] }],
      ['gated, made wider', { ...nothingCleaned, gateDbfs: -50, width: 2, fadeInMs: 900, removesDc: true }],
      ['a layer an octave up', { kind: 'layers', layers: [{ semitones: 12, gainDb: 0, pan: 0, delayBeats: 0.5, lowCutHz: null }] }],
    ],
    peak = (planes: readonly Float32Array[]) =>
      Math.max(...planes.map((plane) => plane.reduce((most, value) => Math.max(most, Math.abs(value)), 0)));
  for (const isCycle of [true, false])
    test.each(extremes.flatMap(([what, plane, onsetFrames]) => steps.map(([how, step]) => [what, how, plane, onsetFrames, step] as const)))(
      `%s, %s${isCycle ? '' : ', once'}`,
      (what, _, plane, onsetFrames, step) => {
        const { channels } = applySteps([plane, plane], [step], { ...setting, beats: 0.6, onsetFrames, isCycle });
        expect(channels.every((each) => each.every(Number.isFinite))).toBe(true);
        if (step.kind !== 'layers') expect(channels[0].length).toBe(frames);
        if (what === 'silence') expect(peak(channels)).toBe(0);
        else expect(20 * Math.log10(peak(channels) / peak([plane]) + 1e-9)).toBeLessThanOrEqual(6.01);
      },
    );
});

describe('a part', () => {
  const step = { kind: 'part' as const, fromFrame: 22_050, toFrame: 66_150, beats: null, wrapsTail: false };
  test('begins with what sounded there, and knows its beats by the tempo', () => {
    const part = made([hits], step);
    expect(part.channels[0].length).toBe(44_100);
    expect(part.beats).toBe(2);
    expect(part.onsetFrames).toEqual([0, 22_050]);
    expect(Math.abs(part.channels[0][500] - hits[22_550])).toBeLessThan(1e-6);
  });
  test('fits n bars at t, both ways: the tempo from the bars, the bars from the tempo', () => {
    expect(made([hits], { ...step, beats: 4 }).tempoBpm).toBe(240);
    expect(settingAfter([{ ...step, beats: 4 }], setting)).toMatchObject({ tempoBpm: 240, beats: 4 });
  });
  test('cut within a wave it does not click', () => {
    const [plane] = made([tone(100)], { ...step, fromFrame: 110, toFrame: 44_210 }).channels;
    expect(Math.abs(plane[0])).toBe(0);
    expect(Math.abs(plane.at(-1) ?? 1)).toBe(0);
  });
  test('what rings on goes round into the start, or is left away', () => {
    const long = new Float32Array(66_150);
    long.set(hits.subarray(0, 44_100));
    long.fill(0.25, 44_100, 50_000);
    const part = (wrapsTail: boolean) => made([long], { ...step, fromFrame: 0, toFrame: 44_100, beats: 2, wrapsTail }).channels[0];
    expect(part(true)[3000] - part(false)[3000]).toBeCloseTo(0.25, 6);
    expect(part(true)[8000]).toBeCloseTo(part(false)[8000], 6);
    expect(part(true).length).toBe(44_100);
  });
  test('of so many beats it goes round; of an unknown number it does not', () => {
    expect(made([hits], { ...step, beats: 2 }).isCycle).toBe(true);
    expect(made([hits], step).isCycle).toBe(false);
  });
  test('too short a one is refused, in words', () => expect(() => made([hits], { ...step, toFrame: 22_060 })).toThrow(/shorter/));
  test('handles snap to where the wave crosses zero', () => {
    const wave = tone(100),
      at = zeroCrossingNear([wave], 1000);
    expect(Math.abs(wave[at])).toBeLessThan(0.005);
    expect(Math.abs(at - 1000)).toBeLessThan(221);
    expect(zeroCrossingNear([new Float32Array(100).fill(1)], 50, 20)).toBe(50);
  });
});

describe('cleaning', () => {
  test('takes DC away, and nothing else', () => {
    const [plane] = cleaned(
      tone(441).map((value) => value + 0.1),
      { removesDc: true },
    ).channels;
    expect(Math.abs(plane.reduce((sum, value) => sum + value, 0) / plane.length)).toBeLessThan(1e-5);
    expect(db(power(plane) / power(tone(441)))).toBeCloseTo(0, 1);
  });
  test.each([
    ['low cut', { lowCutHz: 400 }, 50, 3000],
    ['high cut', { highCutHz: 1000 }, 8000, 200],
  ] as const)('%s: what is meant goes by more than 40 dB, what is not stays', (_, changes, goesHz, staysHz) => {
    const left = (hz: number) => db(power(cleaned(tone(hz), changes).channels[0]) / power(tone(hz)));
    expect(left(goesHz)).toBeLessThan(-40);
    expect(left(staysHz)).toBeGreaterThan(-0.5);
  });
  test('a cut of what goes round leaves no step at the seam', () => {
    const [plane] = cleaned(tone(100), { lowCutHz: 30 }).channels;
    expect(Math.abs(plane[0] - (plane.at(-1) ?? 0))).toBeLessThan(0.02);
  });
  test('the gate lets down what is soft and keeps what is loud, attack included', () => {
    const noisy = hits.map((value, i) => value + 0.001 * Math.sin(i * 1.7)),
      [plane] = cleaned(noisy, { gateDbfs: -30, gateReleaseMs: 40 }).channels;
    expect(db(power(plane, 20_000, 22_000) / power(noisy, 20_000, 22_000))).toBeLessThan(-20);
    expect(db(power(plane, 22_050, 24_000) / power(noisy, 22_050, 24_000))).toBeGreaterThan(-0.3);
  });
  test('silence before and behind goes, hits move along', () => {
    const padded = new Float32Array(30_000);
    padded.set(tone(300, 0.2), 10_000);
    const sound = applySteps([padded], [{ ...nothingCleaned, trimBelowDbfs: -50 }], { ...setting, onsetFrames: [10_000] });
    expect(sound.channels[0].length).toBeLessThan(10_000);
    expect(Math.abs(sound.onsetFrames[0] - 44)).toBeLessThan(20);
    expect(cleaned(new Float32Array(500), { trimBelowDbfs: -50 }).channels[0].length).toBe(500);
  });
  test('normalised to a peak and to a loudness; silence stays silence', () => {
    expect(samplePeakDbfs(cleaned(hits, { normalise: { by: 'peak', toDb: -1 } }).channels)).toBeCloseTo(-1, 3);
    expect(integratedLoudness(cleaned(tone(500, 4), { normalise: { by: 'loudness', toDb: -20 } }).channels, projectRateHz)).toBeCloseTo(
      -20,
      1,
    );
    expect(cleaned(new Float32Array(99), { normalise: { by: 'peak', toDb: 0 } }).channels[0].every((value) => value === 0)).toBe(true);
  });
  test('width: mono is the same on both sides, twice as wide parts what differs, and the middle stays', () => {
    const [a, b] = [tone(300), tone(500)],
      [left, right] = made([a, b], { ...nothingCleaned, width: 0 }).channels;
    expect(left).toEqual(right);
    const wide = made([a, b], { ...nothingCleaned, width: 2 }).channels,
      middle = (planes: readonly Float32Array[]) => planes[0].map((value, i) => (value + planes[1][i]) / 2);
    expect(db(power(middle(wide)) / power(middle([a, b])))).toBeCloseTo(0, 3);
    expect(power(wide[0].map((value, i) => value - wide[1][i]))).toBeCloseTo(4 * power(a.map((value, i) => value - b[i])), 2);
  });
});

describe('slices', () => {
  test('are cut at hits, and played as they came they are what they were', () => {
    const sound = made([hits]);
    expect(slicesOf(sound)).toHaveLength(4);
    const pattern = patternAsPlayed(sound, 4);
    expect(pattern.map(({ step }) => step)).toEqual([0, 4, 8, 12]);
    const [again] = made([hits], { kind: 'slices', stepsPerBeat: 4, hits: pattern }).channels,
      off = again.map((value, i) => value - hits[i]);
    expect(db(power(off) / power(hits))).toBeLessThan(-30);
  });
  test('of two on one step the hit is played, not the silence that leads up to it', () => {
    const late = new Float32Array(30_000);
    late.set(hits.subarray(0, 20_000), 1500);
    const once = { ...setting, tempoBpm: null, onsetFrames: [1500], isCycle: false },
      pattern = patternAsPlayed({ ...once, channels: [late] }, 4);
    expect(pattern).toEqual([{ step: 0, slice: 1, velocity: 1, reverse: false }]);
    const [again] = applySteps([late], [{ kind: 'slices', stepsPerBeat: 4, hits: pattern }], once).channels;
    expect(Math.abs(db((power(again) * again.length) / (power(late) * late.length)))).toBeLessThan(1);
  });
  test('in another order, silenced, softer, backwards', () => {
    const [plane] = made([hits], {
      kind: 'slices',
      stepsPerBeat: 4,
      hits: [
        { step: 0, slice: 3, velocity: 1, reverse: false },
        { step: 8, slice: 0, velocity: 0.5, reverse: false },
        { step: 12, slice: 0, velocity: 1, reverse: true },
      ],
    }).channels;
    expect(Math.abs(plane[800] - hits[66_150 + 756 + 44])).toBeLessThan(0.05);
    expect(db(power(plane, 44_100, 50_000) / power(hits, 0, 5900))).toBeCloseTo(-6, 0);
    expect(power(plane, 86_000, 88_000)).toBeGreaterThan(power(plane, 66_200, 68_000));
    // A slice ends with itself.
    expect(power(plane, 30_000, 43_000)).toBeLessThan(1e-8);
  });
});

test('a pattern of slices as notes: a key for each slice, on its step, as loud as it is', () => {
  const file = parseSmf(
    writeSlicePattern(
      {
        kind: 'slices',
        stepsPerBeat: 4,
        hits: [
          { step: 0, slice: 2, velocity: 1, reverse: false },
          { step: 6, slice: 0, velocity: 0.5, reverse: true },
          { step: 99, slice: 0, velocity: 1, reverse: false },
        ],
      },
      setting,
      'Piston, «slices»',
    ),
  );
  expect(file.notes.map(({ startBeat, lengthBeats, pitch, velocity }) => [startBeat, lengthBeats, pitch, velocity])).toEqual([
    [0, 0.25, 38, 127],
    [1.5, 0.25, 36, 64],
  ]);
  expect(file.lengthBeats).toBe(4);
  expect(file.tempoBpm).toBeCloseTo(120, 3);
});

describe('layers', () => {
  const layer = { semitones: 0, gainDb: 0, pan: 0, delayBeats: 0, lowCutHz: null };
  test('an octave down and one up sound at half and double the frequency', () => {
    const [plane] = made([tone(440)], {
        kind: 'layers',
        layers: [-12, 12].map((semitones) => ({ ...layer, semitones })),
      }).channels,
      at = (hz: number) => {
        let [re, im] = [0, 0];
        plane.forEach((value, i) => {
          re += value * Math.cos((2 * Math.PI * hz * i) / projectRateHz);
          im += value * Math.sin((2 * Math.PI * hz * i) / projectRateHz);
        });
        return Math.hypot(re, im) / plane.length;
      };
    for (const hz of [220, 880]) expect(at(hz)).toBeGreaterThan(20 * at(440));
  });
  test('delayed in what goes round, the end comes in at the start; panned, it is on that side', () => {
    const [left, right] = made([hits, hits], { kind: 'layers', layers: [{ ...layer, delayBeats: 1, pan: -1 }] }).channels;
    expect(Math.abs(left[22_050 + 300] / hits[300] - 2)).toBeLessThan(0.01);
    expect(Math.abs(left[300] / hits[66_450] - 2)).toBeLessThan(0.01);
    expect(power(right)).toBeLessThan(1e-9);
  });
  test('of what plays once, a delay makes it longer', () => {
    const once = applySteps([hits], [{ kind: 'layers', layers: [layer, { ...layer, delayBeats: 2 }] }], { ...setting, isCycle: false });
    expect(once.channels[0].length).toBe(88_200 + 44_100);
  });
});

test('what is known of what comes off the bench', () => {
  const facts = (steps: Step[]) =>
    Object.fromEntries(factsOfSteps(steps, setting, 'Piston').map(({ attribute, candidates }) => [attribute, candidates[0].value]));
  expect(facts([])).toEqual({ tempo: 120, beats: 4, key: { tonic: 2, mode: 'minor' } });
  expect(facts([{ kind: 'retune', semitones: -3, keepsFormants: true, formantSemitones: 0 }]).key).toEqual({ tonic: 11, mode: 'minor' });
  expect(facts([{ kind: 'layers', layers: [] }]).key).toBeUndefined();
  expect(facts([{ kind: 'part', fromFrame: 0, toFrame: 44_100, beats: 2, wrapsTail: false }])).toMatchObject({
    tempo: 120,
    beats: 2,
    start: 0,
  });
});
