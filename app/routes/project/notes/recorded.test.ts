import { playedPitch, recordedNotes, type PlayedKey } from './recorded';

const key = (downBeat: number, upBeat = downBeat + 0.5): PlayedKey => ({ pitch: 60, velocity: 90, downBeat, upBeat }),
  into = { fromBeat: 16, lengthBeats: 8, lateBeats: 0.1, quantiseBeats: null },
  starts = (keys: PlayedKey[], changes: Partial<Parameters<typeof recordedNotes>[1]> = {}) =>
    recordedNotes(keys, { ...into, ...changes }, () => 'n').map(({ startBeat }) => Number(startBeat.toFixed(6)));

test('what is played goes where it was heard, round and round', () => {
  expect(starts([key(17.1), key(25.1), key(33.6)])).toEqual([1, 1, 1.5]);
});
test('a little too early is the start, long before it is nothing', () => expect(starts([key(15.95), key(12)])).toEqual([0]));
test('onto the grid where it is wished; what comes after the last line is the first', () =>
  expect(starts([key(17.22), key(24.05)], { quantiseBeats: 0.5 })).toEqual([1, 0]));
test('no note is longer than the pattern has room for', () => {
  const [note] = recordedNotes([key(23.1, 30)], into, () => 'n');
  expect(note.startBeat + note.lengthBeats).toBeCloseTo(8, 6);
});
test('on a keyboard C plays the kick, pads play what they say', () =>
  expect([playedPitch(60, true), playedPitch(62, true), playedPitch(38, true), playedPitch(60, false)]).toEqual([36, 38, 38, 60]));
