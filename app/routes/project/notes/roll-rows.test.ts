import { drumRows, melodicRows, noteAt, notesIn, pitchAt, rowName, topOf } from './roll-rows';

const note = (id: string, startBeat: number, pitch: number, lengthBeats = 1) => ({ id, startBeat, lengthBeats, pitch, velocity: 100 });

test('pitches and rows go together, and stay inside', () => {
  for (const rows of [melodicRows, drumRows])
    for (const pitch of [rows.lowest, 60, rows.highest]) expect(pitchAt(rows, topOf(rows, pitch) + 2)).toBe(pitch);
  expect(pitchAt(melodicRows, -50)).toBe(melodicRows.highest);
  expect(rowName(drumRows, 38)).toBe('Acoustic snare');
  expect(rowName(melodicRows, 60)).toBe('C4');
});
test('the note under a point, and whether its end is meant; of two the one on top', () => {
  const notes = [note('a', 0, 60, 2), note('b', 1, 60)],
    y = topOf(melodicRows, 60) + 5;
  expect(noteAt(notes, melodicRows, 40, 20, y)).toMatchObject({ note: { id: 'a' }, isEnd: false });
  expect(noteAt(notes, melodicRows, 40, 50, y)?.note.id).toBe('b');
  expect(noteAt(notes, melodicRows, 40, 78, y)?.isEnd).toBe(true);
  expect(noteAt(notes, melodicRows, 40, 200, y)).toBeNull();
  expect(noteAt(notes, melodicRows, 40, 20, y + 12)).toBeNull();
});
test('a band chooses what it touches', () => {
  const notes = [note('a', 0, 60), note('b', 2, 62), note('c', 2, 72)],
    band = { fromX: 100, fromY: topOf(melodicRows, 64), toX: 10, toY: topOf(melodicRows, 59) };
  expect(notesIn(notes, melodicRows, 40, band)).toEqual(['a', 'b']);
});
