import { Chance } from './chance';
import { composeTonal } from './compose';
import { shareInOneScale, withoutKey } from './keyless';

const classes = (notes: readonly { pitch: number }[]) => new Set(notes.map(({ pitch }) => pitch % 12));
const pieces = Array.from({ length: 200 }, (_, seed) => ({ kept: composeTonal(seed), seed })),
  lost = pieces.map(({ kept, seed }) => withoutKey(kept, new Chance(seed)));

test('what has lost its key says so, and nothing else of it has changed', () => {
  lost.forEach((piece, k) => {
    const { kept } = pieces[k];
    expect(piece).toMatchObject({ key: null, chords: [], bars: kept.bars, meter: kept.meter, tempoBpm: kept.tempoBpm });
    expect(piece.parts.map(({ notes }) => notes.map(({ startBeat, velocity }) => [startBeat, velocity]))).toEqual(
      kept.parts.map(({ notes }) => notes.map(({ startBeat, velocity }) => [startBeat, velocity])),
    );
  });
});
test('its notes fit no scale as those of a piece in a key do; where they do all the same, nothing is claimed', () => {
  const middle = (list: readonly number[]) => list.toSorted((a, b) => a - b)[Math.floor(list.length / 2)];
  expect(middle(pieces.map(({ kept }) => shareInOneScale(kept.parts)))).toBeGreaterThan(0.95);
  const none = lost.filter(({ keyStatus }) => keyStatus === 'none'),
    left = lost.filter(({ keyStatus }) => keyStatus === 'ambiguous');
  expect(none.length + left.length).toBe(lost.length);
  expect(none.length).toBeGreaterThan(50);
  expect(Math.max(...none.map(({ parts }) => shareInOneScale(parts)))).toBeLessThan(0.88);
  expect(Math.min(...left.map(({ parts }) => shareInOneScale(parts)))).toBeGreaterThanOrEqual(0.88);
  expect(
    none.filter(({ parts }) => classes(parts.flatMap(({ notes }) => notes.filter(({ channel }) => channel !== 9))).size > 8).length,
  ).toBeGreaterThan(40);
});
test('a scale holds all of itself, twelve notes alike seven of twelve, and the longest notes count most', () => {
  const part = (pitches: readonly number[], lengthBeats = 1) => [
    {
      instrument: 'piano',
      gain: 1,
      notes: pitches.map((pitch, startBeat) => ({ pitch, startBeat, lengthBeats, velocity: 100, channel: 0 })),
    },
  ];
  expect(shareInOneScale(part([60, 62, 64, 65, 67, 69, 71]))).toBe(1);
  expect(shareInOneScale(part(Array.from({ length: 12 }, (_, k) => 60 + k)))).toBeCloseTo(8 / 12, 6);
  expect(shareInOneScale([...part([60, 64, 67], 4), ...part([61, 66, 68], 0.1)])).toBeGreaterThan(0.97);
  expect(shareInOneScale([])).toBe(1);
});
test('no note moves by more than half an octave, and the same seed loses the key in the same way', () => {
  lost.forEach((piece, k) => {
    piece.parts.forEach(({ notes }, p) =>
      notes.forEach(({ pitch }, n) => expect(Math.abs(pitch - pieces[k].kept.parts[p].notes[n].pitch)).toBeLessThanOrEqual(6)),
    );
    expect(withoutKey(pieces[k].kept, new Chance(k))).toEqual(piece);
  });
});
