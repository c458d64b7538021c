import { chord, rateHz } from '../../../test/generators/signals';
import { hear } from '../listen/hear';
import { chordChanges, notesByBar, triadChances } from './bars';

const played = (bars: readonly (readonly number[])[], barSeconds: number, leadSeconds = 0) => {
  const sound = new Float32Array(Math.round((leadSeconds + bars.length * barSeconds) * rateHz));
  bars.forEach((notes, k) =>
    sound.set(chord(notes, barSeconds).subarray(0, Math.floor(barSeconds * rateHz)), Math.round((leadSeconds + k * barSeconds) * rateHz)),
  );
  return notesByBar(hear({ sampleRateHz: rateHz, channels: [sound] }).notes, leadSeconds, barSeconds, bars.length);
};
const names = (bars: ReturnType<typeof played>) => bars.map((bar) => bar.chord && `${bar.chord.root}${bar.chord.minor ? 'm' : ''}`);

test('the triads of a cadence, their basses and their notes', () => {
  const bars = played(
    [
      [48, 60, 64, 67],
      [45, 60, 64, 69],
      [41, 60, 65, 69],
      [43, 59, 62, 67],
    ],
    1.5,
  );
  expect(names(bars)).toEqual(['0', '9m', '5', '7']);
  expect(bars.map(({ bass }) => bass)).toEqual([48, 45, 41, 43]);
  expect(bars[0].notes).toEqual(expect.arrayContaining([48, 60, 64, 67]));
  for (const { chord: triad } of bars) expect(triad?.probability).toBeGreaterThan(0.4);
});
test('bars are counted from where bar 1 begins', () =>
  expect(
    names(
      played(
        [
          [50, 62, 65, 69],
          [46, 62, 65, 70],
        ],
        2,
        0.7,
      ),
    ),
  ).toEqual(['2m', '10']));
test('inversions are read by their notes and not by their lowest', () =>
  expect(
    names(
      played(
        [
          [52, 60, 67, 72],
          [55, 60, 64, 72],
        ],
        1.5,
      ),
    ),
  ).toEqual(['0', '0']));
test('silence has neither chord nor notes', () => {
  const bars = notesByBar(hear({ sampleRateHz: rateHz, channels: [new Float32Array(4 * rateHz)] }).notes, 0, 2, 2);
  expect(bars).toEqual([0, 1].map(() => ({ pitchClasses: new Array(12).fill(0), notes: [], bass: null, chord: null })));
});
test('all triads turned by a step have the same chances, turned', () => {
  const weights = Float32Array.of(5, 0, 1, 0, 4, 0.5, 0, 4, 0, 0, 0, 0.2),
    turned = Float32Array.from({ length: 12 }, (_, pc) => weights[(pc + 11) % 12]),
    [here, there] = [triadChances(weights), triadChances(turned)];
  expect(here.indexOf(Math.max(...here))).toBe(0);
  for (let root = 0; root < 12; root++) {
    expect(there[(root + 1) % 12]).toBeCloseTo(here[root], 6);
    expect(there[12 + ((root + 1) % 12)]).toBeCloseTo(here[12 + root], 6);
  }
  expect(here.reduce((a, b) => a + b, 0)).toBeCloseTo(1, 5);
});
test.each([
  ['A C E G', [9, 0, 4, 7], '9m'],
  ['C E G B', [0, 4, 7, 11], '0'],
  ['G B D F', [7, 11, 2, 5], '7'],
  ['D F A C', [2, 5, 9, 0], '2m'],
])('a chord with its seventh, %s, is no triad on its third', (_, notes, name) => {
  const weights = new Float32Array(12);
  for (const note of notes) weights[note] = 1;
  const chances = triadChances(weights),
    best = chances.indexOf(Math.max(...chances));
  expect(`${best % 12}${best < 12 ? '' : 'm'}`).toBe(name);
});
test('between two readings of the same notes the lowest decides', () => {
  const weights = new Float32Array(12);
  for (const note of [0, 4, 7, 9]) weights[note] = 1;
  const under = (bass: number) =>
    triadChances(
      weights,
      Array.from({ length: 12 }, (_, pc) => (pc === bass ? 5 : 0)),
    );
  expect(under(0)[0] / under(0)[12 + 9]).toBeGreaterThan(2 * (under(9)[0] / under(9)[12 + 9]));
});
test('a change within a bar is told when both chords are held, and not for a passing one', () => {
  const triad = (root: number, probability = 0.8) => ({ root, minor: false, probability });
  expect(chordChanges([triad(0), triad(0), triad(5), triad(5)]).map(({ root }) => root)).toEqual([0, 5]);
  expect(chordChanges([triad(0), triad(0), triad(0), triad(5)])).toEqual([]);
  expect(chordChanges([triad(0), triad(0), triad(5, 0.2), triad(5, 0.2)])).toEqual([]);
  expect(chordChanges([triad(0), triad(0), null, triad(0)])).toEqual([]);
});
