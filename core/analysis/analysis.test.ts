import { chord, hits, rateHz, sine } from '../../test/generators/signals';
import { noTags } from '../formats/tags/embedded';
import { parseSmf } from '../formats/smf/parse';
import { writeSmf } from '../formats/smf/write';
import { analyseAudio } from './analyse-audio';
import { analyseNotes } from './analyse-notes';
import { chooseFacts } from './evidence/choose';
import { fuse } from './evidence/fuse';
import { evidence, type Evidence } from './facts';
import { keyCorrelations } from './key/profiles';
import { integratedLoudness, samplePeakDbfs } from './loudness/loudness';
import { detectOnsets } from './onsets/onsets';
import { overviewPeaks } from './peaks/peaks';
import { beatsFromTempo, lengthCandidates } from './tempo/length-candidates';

const pcm = (...channels: Float32Array[]) => ({ sampleRateHz: rateHz, channels });
const known = (channels: Float32Array[], path: string, tags = noTags) => {
  const { evidence: all, measures } = analyseAudio(pcm(...channels), path, tags);
  return chooseFacts(all, measures);
};

describe('loudness (ITU-R BS.1770-4; EBU Tech 3341 test signals)', () => {
  test.each([
    [-23, -23],
    [-33, -33],
  ])('stereo sine of 1 kHz at %d dBFS is %d LUFS within 0.1', (peakDbfs, lufs) => {
    const tone = sine(1000, 20, 10 ** (peakDbfs / 20));
    expect(Math.abs((integratedLoudness([tone, tone], rateHz) ?? 0) - lufs)).toBeLessThan(0.1);
  });
  test('gating: 10 s at −36, 60 s at −23, 10 s at −36 dBFS are −23 LUFS within 0.1 (3341, case 3)', () => {
    const tone = new Float32Array(80 * rateHz);
    tone.set(sine(1000, 10, 10 ** (-36 / 20)));
    tone.set(sine(1000, 60, 10 ** (-23 / 20)), 10 * rateHz);
    tone.set(sine(1000, 10, 10 ** (-36 / 20)), 70 * rateHz);
    expect(Math.abs((integratedLoudness([tone, tone], rateHz) ?? 0) + 23)).toBeLessThan(0.1);
  });
  test('a snippet is measured as it repeats; silence and nothing have none', () => {
    const snippet = sine(1000, 0.25, 10 ** (-23 / 20));
    expect(Math.abs((integratedLoudness([snippet, snippet], rateHz) ?? 0) + 23)).toBeLessThan(0.2);
    expect(integratedLoudness([new Float32Array(9000)], rateHz)).toBeNull();
    expect(integratedLoudness([], rateHz)).toBeNull();
    expect(samplePeakDbfs([new Float32Array(1)])).toBeNull();
    expect(samplePeakDbfs([sine(441, 1, 0.5)])).toBeCloseTo(-6.02, 1);
  });
});

describe('onsets', () => {
  const times = [0.002, 0.5, 0.75, 1, 1.5, 1.9];
  test('hits are found within 2 ms, none besides', () => {
    const found = detectOnsets([hits(times, 2.2)], rateHz).map((frame) => frame / rateHz);
    expect(found).toHaveLength(times.length);
    times.forEach((time, index) => expect(Math.abs(found[index] - time)).toBeLessThan(0.002));
  });
  test.each([
    ['nothing', 0],
    ['one frame', 1],
    ['silence', 50_000],
  ])('%s has none', (_, length) => expect(detectOnsets([new Float32Array(length)], rateHz)).toEqual([]));
});

describe('tempo from length (common practice)', () => {
  test('half and double are always among the candidates', () => {
    const tempos = lengthCandidates(8).map((each) => each.tempoBpm);
    expect(tempos).toEqual(expect.arrayContaining([60, 120]));
    expect(lengthCandidates(8).reduce((sum, each) => sum + each.probability, 0)).toBeCloseTo(1, 9);
  });
  test('a tail is not counted as bars; no length has no candidates', () => {
    expect(beatsFromTempo(120, 8, '4/4').beats).toBe(16);
    expect(beatsFromTempo(120, 8.9, '4/4').beats).toBe(16);
    expect(beatsFromTempo(120, 6, '3/4').beats).toBe(12);
    expect(lengthCandidates(0)).toEqual([]);
    expect(lengthCandidates(NaN)).toEqual([]);
  });
});

describe('key profiles (Krumhansl & Kessler 1982)', () => {
  const best = (pitches: readonly number[], bass: readonly number[]) => {
    const weights = (list: readonly number[]) =>
      Float32Array.from({ length: 12 }, (_, pitch) => list.filter((each) => each === pitch).length);
    return keyCorrelations(weights(pitches), weights(bass)).reduce((a, b) => (b.correlation > a.correlation ? b : a)).key;
  };
  test('a C major scale with its tonic and fifth doubled is C major', () =>
    expect(best([0, 0, 0, 2, 4, 4, 5, 7, 7, 9, 11], [0, 7])).toEqual({ tonic: 0, mode: 'major' }));
  test('i–iv–V–i in A minor (any harmony handbook) is A minor', () =>
    expect(best([9, 0, 4, 2, 5, 9, 4, 8, 11, 9, 0, 4], [9, 2, 4, 9])).toEqual({ tonic: 9, mode: 'minor' }));
});

describe('a whole file', () => {
  const beat = 60 / 100,
    drumTimes = [0, 0.5, 1, 1.5, 2, 2.75, 3, 3.5, 4, 4.5, 5, 5.5, 6, 6.75, 7, 7.5].map((at) => at * beat + 0.001);
  test('drums at 100 from the sound alone: tempo within 0.5 %, 8 beats, unpitched, a loop', () =>
    expect(known([hits(drumTimes, 8 * beat)], 'x.wav')).toMatchObject({
      kind: 'loop',
      beats: 8,
      bars: 2,
      pitched: false,
      key: null,
      tempoBpm: expect.closeTo(100, 0),
    }));
  test('a chord of F minor is pitched, tuned, and in F minor', () => {
    const facts = known([chord([41, 53, 56, 60, 65], 4)], 'x.wav');
    expect(facts).toMatchObject({ pitched: true, key: { tonic: 5, mode: 'minor' } });
  });
  test('one hit is a one-shot and has no tempo', () =>
    expect(known([hits([0.001], 0.5)], 'One Shots/Kick.wav')).toMatchObject({
      kind: 'one-shot',
      tempoBpm: null,
      beats: null,
      instrument: 'kick',
    }));
  test('silence in front is taken off only when the rest fits better', () => {
    const late = new Float32Array(8 * beat * rateHz + 2646);
    late.set(hits(drumTimes, 8 * beat), 2646);
    expect(analyseAudio(pcm(late), 'Beat 100 bpm.wav', noTags).measures.firstBarSeconds).toBeCloseTo(0.06, 2);
    expect(analyseAudio(pcm(hits(drumTimes.slice(2), 8 * beat)), 'Tamb 100 bpm.wav', noTags).measures.firstBarSeconds).toBe(0);
  });
  test.each([
    ['nothing', 0],
    ['one frame', 1],
    ['silence', 44_100],
  ])('%s gives facts without NaN', (_, length) => {
    const { measures } = analyseAudio(pcm(new Float32Array(length)), 'x.wav', noTags);
    expect(measures.loudnessLufs).toBeNull();
    expect(JSON.stringify(measures)).not.toContain('null,null,null');
    expect(Number.isFinite(measures.tuningCents)).toBe(true);
  });
  test('peaks', () => {
    expect([...overviewPeaks([Float32Array.from([0, 1, -0.25, 0])], 2)]).toEqual([255, 128]);
    expect([...overviewPeaks([], 2)]).toEqual([0, 0]);
  });
});

describe('evidence', () => {
  const length = evidence(
    'tempo',
    'length',
    [
      { value: 62, probability: 0.5 },
      { value: 124.02, probability: 0.5 },
    ],
    'length',
  );
  test('witnesses that agree make it surer; the stated value stands for the measured one', () => {
    const chosen = fuse('tempo', [length, evidence('tempo', 'file-name', [{ value: 124, probability: 0.9 }], 'name says 124')]);
    expect(chosen?.value).toBe(124);
    expect(chosen?.confidence).toBeGreaterThan(0.8);
    expect(chosen?.alternatives[0].value).toBe(62);
    expect(chosen?.reasons).toEqual(['length', 'name says 124']);
  });
  test('a person outranks all, and the newest word of a person stands', () => {
    const say = (value: number): Evidence => evidence('tempo', 'person', [{ value, probability: 1 }], 'corrected by hand');
    expect(fuse('tempo', [length, say(60), say(61), evidence('tempo', 'tag', [{ value: 124, probability: 1 }], '')])).toMatchObject({
      value: 61,
      confidence: 1,
      source: 'person',
    });
  });
  test('a whole number in a name stands for what is half a beat off and was measured; a measured one is taken exactly', () => {
    const sound = evidence(
      'tempo',
      'sound',
      [
        { value: 80.5, probability: 0.6 },
        { value: 161, probability: 0.4 },
      ],
      'heard',
    );
    expect(fuse('tempo', [sound, evidence('tempo', 'file-name', [{ value: 80, probability: 0.9 }], 'name says 80')])?.value).toBe(80.5);
    expect(fuse('tempo', [sound, evidence('tempo', 'file-name', [{ value: 79, probability: 0.9 }], 'name says 79')])?.value).not.toBe(161);
  });
  test('without evidence there is no answer', () => expect(fuse('tempo', [])).toBeNull());
  test('beats of a person give the tempo', () =>
    expect(
      chooseFacts(
        [
          length,
          evidence('kind', 'sound', [{ value: 'loop', probability: 1 }], ''),
          evidence('beats', 'person', [{ value: 8, probability: 1 }], ''),
        ],
        { firstBarSeconds: 0, lengthSeconds: 4 },
      ),
    ).toMatchObject({ tempoBpm: 120, beats: 8, bars: 2 }));
  test('no single key is an answer: tuned, without a key, until a name or a person knows better', () => {
    const measured = { firstBarSeconds: 0, lengthSeconds: 4 },
      heard = evidence(
        'key',
        'sound',
        [
          { value: 'no-single-key', probability: 0.6 },
          { value: { tonic: 9, mode: 'minor' }, probability: 0.3 },
        ],
        '',
      ),
      said = (source: 'file-name' | 'person') =>
        evidence('key', source, [{ value: { tonic: 9, mode: 'minor' as const }, probability: source === 'person' ? 1 : 0.9 }], '');
    const alone = chooseFacts([heard], measured);
    expect(alone).toMatchObject({ key: null, pitched: true });
    expect(alone.chosen.key).toMatchObject({ value: 'no-single-key', confidence: expect.closeTo(0.655, 2) });
    for (const source of ['file-name', 'person'] as const)
      expect(chooseFacts([heard, said(source)], measured)).toMatchObject({ key: { tonic: 9, mode: 'minor' }, pitched: true });
    expect(
      chooseFacts([said('file-name'), evidence('key', 'person', [{ value: 'no-single-key', probability: 1 }], '')], measured),
    ).toMatchObject({ key: null, pitched: true });
  });
  test('drums have no key, unless somebody says so', () => {
    const sound = [
      evidence('kind', 'sound', [{ value: 'loop', probability: 1 }], ''),
      evidence('instrument', 'file-name', [{ value: 'kit', probability: 0.92 }], ''),
      evidence('key', 'sound', [{ value: { tonic: 2, mode: 'minor' as const }, probability: 0.5 }], ''),
    ];
    expect(chooseFacts(sound, { firstBarSeconds: 0, lengthSeconds: 4 }).pitched).toBe(false);
    expect(
      chooseFacts([...sound, evidence('key', 'person', [{ value: { tonic: 2, mode: 'minor' }, probability: 1 }], '')], {
        firstBarSeconds: 0,
        lengthSeconds: 4,
      }).key,
    ).toEqual({ tonic: 2, mode: 'minor' });
  });
});

test('note loops are known from their notes and meta events', () => {
  const notes = [
    [62, 0],
    [65, 1],
    [69, 2],
    [72, 3],
    [62, 4],
    [65, 5],
    [69, 6],
    [62, 7],
  ].map(([pitch, startBeat]) => ({ pitch, startBeat, lengthBeats: 0.9, velocity: 90, channel: 0 }));
  const { evidence: all, measures } = analyseNotes(
    parseSmf(writeSmf({ notes, lengthBeats: 8, tempoBpm: 93, meter: '4/4', keySignature: { sharps: -1, minor: true }, program: 32 })),
    'x.mid',
  );
  expect(chooseFacts(all, measures)).toMatchObject({
    kind: 'loop',
    tempoBpm: expect.closeTo(93, 3),
    beats: 8,
    bars: 2,
    key: { tonic: 2, mode: 'minor' },
    family: 'bass',
  });
});
test('notes in 6/8 are counted in dotted quarters, though their file and their name count quarters', () => {
  const midi = parseSmf(
    writeSmf({
      notes: [0, 1.5, 3, 4.5].map((startBeat) => ({ startBeat, lengthBeats: 1, pitch: 60, velocity: 90, channel: 0 })),
      lengthBeats: 6,
      tempoBpm: 120,
      meter: '6/8',
    }),
  );
  for (const path of ['', 'Sway 120 bpm.mid', 'Sway 80 bpm.mid']) {
    const { evidence: all, measures } = analyseNotes(midi, path);
    // Six quarters at 120 are three seconds.
    expect(measures.lengthSeconds).toBeCloseTo(3, 6);
    const facts = chooseFacts(all, { ...measures, readings: measures.detail?.readings });
    expect(facts).toMatchObject({ tempoBpm: 80, beats: 4, bars: 2, meter: '6/8' });
  }
});
