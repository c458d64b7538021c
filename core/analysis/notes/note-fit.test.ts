import { chord, rateHz, sine } from '../../../test/generators/signals';
import { notesByBar } from '../chords/bars';
import { hear } from '../listen/hear';
import { lowestNote, noteCount, type NoteFrames } from './note-fit';

const heardOf = (sound: Float32Array) => hear({ sampleRateHz: rateHz, channels: [sound] });
const mean = (frames: NoteFrames): number[] => {
  const sums = new Array<number>(noteCount).fill(0);
  frames.strengths.forEach((value, k) => (sums[k % noteCount] += value / frames.frameCount));
  return sums;
};
const strongest = (frames: NoteFrames, count: number): number[] =>
  mean(frames)
    .map((value, note) => ({ value, note: lowestNote + note }))
    .sort((a, b) => b.value - a.value)
    .slice(0, count)
    .map(({ note }) => note)
    .sort((a, b) => a - b);

test.each([[[60, 64, 67]], [[45, 57, 60, 64]], [[52, 55, 59, 62]]])('the notes of a chord %j are the strongest', (notes) =>
  expect(strongest(heardOf(chord(notes, 2)).notes, notes.length)).toEqual(notes),
);

test.each([30, -30])('a tone %d cents off is tuned as much, within 3, and still its own note', (cents) => {
  const heard = heardOf(sine(440 * 2 ** (cents / 1200), 2));
  expect(Math.abs(heard.tones.tuningCents - cents)).toBeLessThan(3);
  expect(strongest(heard.notes, 1)).toEqual([69]);
});

test('C, then A minor, then F, then G (any harmony handbook): the triad of each bar', () => {
  const bars = [
    [48, 60, 64, 67],
    [45, 60, 64, 69],
    [41, 60, 65, 69],
    [43, 59, 62, 67],
  ];
  const sound = new Float32Array(8 * rateHz);
  bars.forEach((notes, k) => sound.set(chord(notes, 2).subarray(0, 2 * rateHz), k * 2 * rateHz));
  const found = notesByBar(heardOf(sound).notes, 0, 2, 4);
  expect(found.map((bar) => bar.chord && [bar.chord.root, bar.chord.minor])).toEqual([
    [0, false],
    [9, true],
    [5, false],
    [7, false],
  ]);
  expect(found.map((bar) => bar.bass)).toEqual([48, 45, 41, 43]);
});

test('silence has no notes and no chord', () => {
  const heard = heardOf(new Float32Array(rateHz));
  expect(heard.notes.strengths.every((value) => value === 0)).toBe(true);
  expect(notesByBar(heard.notes, 0, 0.5, 2)).toEqual([
    expect.objectContaining({ chord: null, bass: null, notes: [] }),
    expect.objectContaining({ chord: null }),
  ]);
});
