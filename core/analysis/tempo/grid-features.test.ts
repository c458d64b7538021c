import { noteCount, type NoteFrames } from '../notes/note-fit';
import type { RhythmCandidate } from './candidates';
import { gapsBetween, gridFeatureCount, gridFeatures, NoteLikeness, type SharedGridFeatures } from './grid-features';

const hopSeconds = 0.1;

/** Notes by frame, all equally strong. */
function notesOf(frames: readonly (readonly number[])[]): NoteFrames {
  const strengths = new Float32Array(frames.length * noteCount);
  frames.forEach((notes, frame) => notes.forEach((note) => (strengths[frame * noteCount + note - 24] = 1)));
  return { hopSeconds, frameCount: frames.length, strengths, broad: new Float32Array(frames.length), residual: 0 };
}
const shared = (onsetSeconds: readonly number[], notes = notesOf([[60]])): SharedGridFeatures => ({
  onsetSeconds,
  onsetStrengths: onsetSeconds.map(() => 1),
  gapSeconds: gapsBetween(onsetSeconds),
  lowChange: new Float32Array(80),
  lowChangeMean: 0,
  noteLikeness: new NoteLikeness(notes),
  noteHopSeconds: hopSeconds,
  heardSeconds: 8,
});
const candidate = (tempoBpm: number, bars = 4): RhythmCandidate => ({ tempoBpm, bars, meter: '4/4', startSeconds: 0, source: 'length' });
const eighths = Array.from({ length: 32 }, (_, k) => k * 0.25);

test('onsets on the grid of their tempo have no distance from it; of a tempo that is 1 % off they drift', () => {
  const right = gridFeatures(shared(eighths), candidate(120)),
    off = gridFeatures(shared(eighths), candidate(121.2));
  expect(right).toHaveLength(gridFeatureCount);
  // Halves of the beat: distance, drift.
  expect(right[0]).toBeCloseTo(0, 5);
  expect(right[1]).toBeCloseTo(0, 5);
  expect(off[0]).toBeGreaterThan(1);
  expect(off[1]).toBeGreaterThan(1.5);
});

test('gaps are told in beats: eighths at 120 are quarters at 240 and sixteenths at 60', () => {
  const middle = (tempoBpm: number) => gridFeatures(shared(eighths), candidate(tempoBpm))[8];
  expect(middle(120)).toBeCloseTo(-1);
  expect(middle(60)).toBeCloseTo(-2);
  expect(middle(180)).toBeCloseTo(Math.log2(0.75));
  // ¼, ⅓, ½, ⅔, 1, 1½, 2 beats.
  expect(gridFeatures(shared(eighths), candidate(120)).slice(9, 16)).toEqual([0, 0, 1, 0, 0, 0, 0]);
});

test('notes that come again after two seconds are alike at that lag and not at half of it', () => {
  const bar = (notes: readonly number[]) => Array.from({ length: 10 }, () => notes),
    likeness = new NoteLikeness(notesOf([...bar([60, 64]), ...bar([62, 65]), ...bar([48, 76]), ...bar([62, 65])]));
  expect(likeness.at(2)).toBeCloseTo(1, 5);
  expect(likeness.at(1)).toBeCloseTo(0, 5);
  expect(likeness.at(60)).toBe(0);
  expect(new NoteLikeness(notesOf([[], []])).at(0)).toBe(0);
});

test('a bass that changes at bar lines speaks for them', () => {
  const lowChange = Float32Array.from({ length: 80 }, (_, frame) => (frame % 20 === 0 ? 1 : 0)),
    [atBars, atHalves] = gridFeatures({ ...shared(eighths), lowChange, lowChangeMean: 0.05 }, candidate(120)).slice(-4);
  expect(atBars).toBeGreaterThan(0.8);
  expect(atHalves).toBeLessThan(0);
});

test.each([
  ['no onsets', []],
  ['one', [0.5]],
  ['two at once', [0.5, 0.51]],
])('%s: numbers all the same', (_, onsets) => expect(gridFeatures(shared(onsets), candidate(97, 1)).every(Number.isFinite)).toBe(true));
