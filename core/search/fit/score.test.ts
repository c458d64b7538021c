import { asIndexed, indexOf } from '../../../test/generators/indexed';
import { generateLoops } from '../../../test/generators/library-rows';
import type { Detail } from '../../analysis/analysis';
import { chooseReading } from '../../arrangement/fit-request';
import { signedStretch } from './coarse';
import type { Key } from '../../theory/key';
import { ProfileReader, profileOf } from './profile';
import { sceneOf, type SceneFrame, type Sounding } from './scene';
import { fitScore, judgeFit, noFindings, type FitLoop } from './score';
import { usualWeights } from './weights';
import { fitInWords } from './words';
import { gapsOf } from './gaps';

const chord = (...pitches: number[]) => ({
    pitchClasses: Array.from({ length: 12 }, (_, pitch) => (pitches.includes(pitch) ? 1 : 0)),
    notes: [],
    bass: null,
    chord: null,
  }),
  straight = [1, 0, 0, 0, 0.6, 0, 0, 0, 0.9, 0, 0, 0, 0.6, 0, 0, 0],
  between = [0, 0, 0.9, 0, 0, 0, 0.9, 0, 0, 0, 0.9, 0, 0, 0, 0.9, 0];

function profile({
  bands = [0, 0, 1, 1, 0, 0, 0, 0, 0, 0],
  accents = straight,
  bars = [chord(0, 4, 7), chord(5, 9, 0)],
  swing = null as number | null,
} = {}): ProfileReader {
  const total = bands.reduce((sum, value) => sum + value, 0),
    detail: Detail = {
      readings: [],
      pulse: [],
      groove: { accents: [accents, accents, accents], swing, spreadMs: 5 },
      bars,
      families: [],
      levels: null,
      character: [],
      bands: bands.map((value) => value / total),
      tuningAgreement: 1,
      heardSeconds: null,
      density: 1,
      brightnessHz: 800,
      fallSeconds: 0.3,
    };
  return new ProfileReader(profileOf(detail) ?? new Uint8Array());
}

const cMajor: Key = { tonic: 0, mode: 'major' },
  frame: SceneFrame = {
    tempoBpm: 120,
    key: cMajor,
    meter: '4/4',
    barBeats: 4,
    lengthBeats: 16,
    sectionBars: 4,
    chordsByBar: [],
    needs: ['commercial'],
  },
  keys: Sounding = {
    loopId: 1,
    setId: 4,
    packId: 2,
    isDrums: false,
    loudnessLufs: -18,
    shiftSemitones: 0,
    startBeat: 0,
    lengthBeats: 16,
    barBeats: 4,
    cycleBeats: 8,
    offsetBeats: 0,
    profile: profile(),
  },
  scene = sceneOf(frame, [keys]),
  loop: FitLoop = {
    loopId: 9,
    kind: 'loop',
    tempoBpm: 120,
    key: cMajor,
    pitched: true,
    family: 'keys',
    instrument: 'piano',
    bars: 2,
    beats: 8,
    meter: '4/4',
    barBeats: 4,
    setId: null,
    packId: 7,
    allows: () => true,
    profile: profile({ bands: [0, 0, 0, 0, 0, 0, 0, 1, 2, 3], accents: between }),
  };
const score = (changes: Partial<FitLoop>, weights = usualWeights) => judgeFit({ ...loop, ...changes }, scene, weights);

test('harmony goes bar by bar: the same chords in the other order rub less than a semitone off, and more than in place', () => {
  const at = (bars: ReturnType<typeof chord>[]) =>
    score({ profile: profile({ bars, bands: [0, 0, 0, 0, 0, 0, 0, 1, 2, 3], accents: between }) });
  const inPlace = at([chord(0, 4, 7), chord(5, 9, 0)]),
    swapped = at([chord(5, 9, 0), chord(0, 4, 7)]),
    off = at([chord(1, 5, 8), chord(6, 10, 1)]);
  expect(inPlace.score).toBeGreaterThan(swapped.score);
  expect(swapped.score).toBeGreaterThan(off.score);
  expect(fitInWords(off)).toMatch(/rubs in bars 1, 2, 3, 4/);
  expect(fitInWords(inPlace)).toMatch(/plays its chords/);
});
test('a progression that is moved into the key is heard where it is moved to', () => {
  const moved = score({
    key: { tonic: 2, mode: 'major' },
    profile: profile({ bars: [chord(2, 6, 9), chord(7, 11, 2)], bands: [0, 0, 0, 0, 0, 0, 0, 1, 2, 3], accents: between }),
  });
  expect(moved.found.shiftSemitones).toBe(-2);
  expect(moved.found.rub).toBeLessThan(0.05);
});
test('what fills a free register fits better than what crowds one, and says so', () => {
  const crowded = score({ profile: profile({ accents: between }) });
  expect(score({}).score).toBeGreaterThan(crowded.score);
  expect(fitInWords(score({}))).toMatch(/fills the top/);
  expect(fitInWords(crowded)).toMatch(/crowds/);
});
test('the same rhythm in the same register is the same again; between the accents it is not', () => {
  const twin = score({ profile: profile() });
  expect(fitInWords(twin)).toMatch(/plays the same again/);
  expect(score({ profile: profile({ accents: between }) }).score).toBeGreaterThan(twin.score);
});
test('seven against four does not fit, nor what the licence forbids, nor what does not divide the section', () => {
  const whole = score({}).score;
  expect(score({ meter: '7/8', barBeats: 7, beats: 7, bars: 1 }).score).toBeLessThan(whole / 2);
  expect(fitInWords(score({ allows: () => false }))).toMatch(/licence forbids commercial work/);
  expect(score({ bars: 3, beats: 12 }).found.unevenBars).toBe(true);
  expect(score({ bars: 2, beats: 8 }).found.unevenBars).toBe(false);
});
test('kin stands before strangers, and what sounds already behind them', () => {
  expect(score({ setId: 4, packId: 2 }).score).toBeGreaterThan(score({}).score);
  expect(score({ loopId: 1, setId: 4, packId: 2 }).score).toBeLessThan(score({}).score);
});
test('what is unknown widens the score and does not sink it', () => {
  const known = score({}),
    unheard = score({ profile: new ProfileReader(new Uint8Array(200)), key: null });
  expect([known.low, known.high]).toEqual([known.score, known.score]);
  expect(unheard.high - unheard.low).toBeGreaterThan(20);
  expect(unheard.high).toBeGreaterThan(known.score * 0.8);
  expect(unheard.low).toBeLessThan(unheard.score);
});
test('a part that weighs nothing does not matter; one that weighs more matters more', () => {
  const stretched = { tempoBpm: 132 };
  expect(score(stretched, { ...usualWeights, stretch: 0 }).score).toBeCloseTo(score({}).score, 6);
  expect(score(stretched, { ...usualWeights, stretch: 2 }).score).toBeLessThan(score(stretched).score);
});
test('the short score is the long one, for loops of every kind', () => {
  const rows = [...generateLoops(300, 11)].map(asIndexed),
    index = indexOf(generateLoops(300, 11)),
    reader = index.reader(),
    found = noFindings();
  for (const { id } of rows) {
    const slot = index.slotOfId(id) ?? -1,
      long = judgeFit(reader.at(slot), scene, usualWeights).score;
    expect(fitScore(reader.at(slot), scene, usualWeights, found)).toBe(long);
    expect(long).toBeGreaterThanOrEqual(0);
    expect(long).toBeLessThanOrEqual(100);
  }
});
test('what sounds makes the scene: moved pitches, loudness, clips that begin later', () => {
  const moved = sceneOf(frame, [{ ...keys, shiftSemitones: 2, startBeat: 8, lengthBeats: 8 }]);
  expect(moved.harmony?.[0].every((strength) => strength === 0)).toBe(true);
  expect([...(moved.harmony?.[2] ?? [])].flatMap((strength, pitch) => (strength > 0.5 ? [pitch] : []))).toEqual([2, 6, 9]);
  const both = sceneOf(frame, [keys, { ...keys, loudnessLufs: -48, profile: profile({ bands: [0, 0, 0, 0, 0, 0, 0, 0, 0, 1] }) }]);
  expect(both.bands?.[9]).toBeLessThan(0.01);
  expect(sceneOf({ ...frame, chordsByBar: [[2, 5, 9]] }, []).harmony?.[0][5]).toBe(1);
  expect(sceneOf(frame, [])).toMatchObject({ bands: null, harmony: null, accents: null });
});
test('the reading of a tempo is the one that fitting takes, for every pair of tempos', () => {
  for (let loopBpm = 25; loopBpm < 400; loopBpm += 7.3)
    for (let projectBpm = 40; projectBpm < 260; projectBpm += 9.1)
      expect(signedStretch(loopBpm, projectBpm)).toBeCloseTo(Math.log2(projectBpm / (loopBpm * chooseReading(loopBpm, projectBpm))), 9);
});
test('gaps: what a piece usually has and this one lacks, and registers that are free', () => {
  expect(gapsOf(scene, ['keys']).map(({ label }) => label)).toEqual([
    'drums',
    'percussion',
    'a bass',
    'a line on top',
    'the bottom',
    'the top',
  ]);
  expect(gapsOf(scene, [])).toEqual([]);
});
