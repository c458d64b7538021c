import { parseKey } from '../../theory/key';
import type { ChordMark } from '../tree';
import {
  chordsWithin,
  copyChords,
  layChords,
  moveChordStart,
  progressionOver,
  putChord,
  removeChord,
  setChordEnd,
  transposeChords,
} from './chords';

const line = (text: string): ChordMark[] =>
    text.split(' ').map((word) => {
      const [symbol, beat] = word.split('@');
      return { startBeat: Number(beat), symbol };
    }),
  text = (chords: readonly ChordMark[]) => chords.map(({ startBeat, symbol }) => `${symbol}@${startBeat}`).join(' ');

test('a chord is put, over another, and taken out; what only goes on is not said twice', () => {
  const start = line('Dm@0 G@8');
  expect(text(putChord(start, 4, 'Am'))).toBe('Dm@0 Am@4 G@8');
  expect(text(putChord(start, 8, 'C'))).toBe('Dm@0 C@8');
  expect(text(putChord(start, 4, 'Dm'))).toBe('Dm@0 G@8');
  expect(text(removeChord(start, 8))).toBe('Dm@0');
});
test('it begins elsewhere between its neighbours, and ends where the next begins, or in no chord', () => {
  const start = line('Dm@0 G@8 C@12');
  expect(text(moveChordStart(start, 1, 20, 1))).toBe('Dm@0 G@11 C@12');
  expect(text(setChordEnd(start, 0, 6, 1))).toBe('Dm@0 G@6 C@12');
  expect(text(setChordEnd(start, 2, 16, 1))).toBe('Dm@0 G@8 C@12 N.C.@16');
});
test('a range is copied with what holds at its start, and what held behind goes on there', () => {
  const start = line('Dm@0 G@8 C@12 F@24');
  expect(text(chordsWithin(start, 4, 12))).toBe('Dm@0 G@4');
  expect(text(copyChords(start, 4, 12, 16))).toBe('Dm@0 G@8 C@12 Dm@16 G@20 F@24');
  expect(text(copyChords(start, 4, 12, 12))).toBe('Dm@0 G@8 Dm@12 G@16 C@20 F@24');
});
test('transposed in a range only, spelled in the key', () =>
  expect(text(transposeChords(line('Dm@0 A@4 Dm@8'), 4, 12, 1, parseKey('Dm')))).toBe('Dm@0 B♭@4 E♭m@8'));
test('a progression fills a stretch, and the old line goes on behind it', () => {
  expect(text(progressionOver(['C', 'G', 'Am'], 16, 4))).toBe('C@0 G@4 Am@8 C@12');
  expect(text(layChords(line('Dm@0'), progressionOver(['C', 'G'], 8, 4), 4, 8))).toBe('Dm@0 C@4 G@8 Dm@12');
  expect(progressionOver([], 8, 4)).toEqual([]);
});
