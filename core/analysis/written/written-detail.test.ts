import { parseSmf, type Note } from '../../formats/smf/parse';
import { writeSmf } from '../../formats/smf/write';
import { analyseNotes } from '../analyse-notes';

const note = (startBeat: number, lengthBeats: number, pitch: number, channel = 0): Note => ({
  startBeat,
  lengthBeats,
  pitch,
  velocity: 96,
  channel,
});
const detailOf = (notes: readonly Note[], meter: '4/4' | '3/4' | '6/8' = '4/4', lengthBeats = 8, tempoBpm = 120) =>
  analyseNotes(parseSmf(writeSmf({ notes: [...notes], lengthBeats, tempoBpm, meter, program: 0 })), 'x.mid').measures.detail;

test('chords, bass and notes of each bar are those that are written', () => {
  const detail = detailOf([...[45, 57, 60, 64].map((pitch) => note(0, 4, pitch)), ...[41, 57, 60, 65].map((pitch) => note(4, 4, pitch))]);
  expect(detail?.bars.map(({ chord }) => [chord?.root, chord?.minor])).toEqual([
    [9, true],
    [5, false],
  ]);
  expect(detail?.bars.map(({ bass }) => bass)).toEqual([45, 41]);
  expect(detail?.bars[0].notes).toEqual([45, 57, 60, 64]);
  expect(detail?.melody).toBeNull();
});
test('one voice is its own melody, in seconds of the file’s tempo', () => {
  const detail = detailOf([note(0, 0.9, 60), note(1, 0.5, 62), note(2, 2, 67)], '4/4', 4, 90);
  expect(detail?.melody?.map(({ pitch }) => pitch)).toEqual([60, 62, 67]);
  expect(detail?.melody?.[1].startSeconds).toBeCloseTo(60 / 90, 3);
  expect(detail?.melody?.[2].lengthSeconds).toBeCloseTo((2 * 60) / 90, 2);
});
test('accents are those of the notes: kick low, snare in the middle, hats high', () => {
  const notes = [0, 2, 4, 6].map((beat) => note(beat, 0.2, 36, 9));
  notes.push(...[1, 3, 5, 7].map((beat) => note(beat, 0.2, 38, 9)), ...Array.from({ length: 16 }, (_, k) => note(k / 2, 0.1, 42, 9)));
  const groove = detailOf(notes)?.groove,
    played = (band: number) => groove?.accents[band].flatMap((value, place) => (value > 0.3 ? [place] : []));
  expect(played(0)).toEqual([0, 8]);
  expect(played(1)).toEqual([4, 12]);
  expect(played(2)).toEqual([0, 2, 4, 6, 8, 10, 12, 14]);
  expect(groove?.spreadMs).toBeLessThan(3);
});
test('swung eighths are told by their place', () => {
  const notes = Array.from({ length: 8 }, (_, beat) => [note(beat, 0.2, 42, 9), note(beat + 2 / 3, 0.2, 42, 9)]).flat();
  expect(detailOf(notes)?.groove?.swing).toBeCloseTo(0.667, 1);
});
test('bars of six eighths have their own length', () => {
  const detail = detailOf([note(0, 3, 48), note(3, 3, 55)], '6/8', 6);
  expect(detail?.bars.map(({ bass }) => bass)).toEqual([48, 55]);
});
test('chords change within a bar where they are written so, and a chord is one hit', () => {
  const detail = detailOf(
    [...[48, 60, 64, 67].map((pitch) => note(0, 2, pitch)), ...[45, 57, 60, 64].map((pitch) => note(2, 2, pitch))],
    '4/4',
    4,
  );
  expect(detail?.beatChords?.map((chord) => chord && [chord.root, chord.minor])).toEqual([
    [0, false],
    [0, false],
    [9, true],
    [9, true],
  ]);
  expect(detail?.hits?.map(([seconds]) => seconds)).toEqual([0, 1]);
  expect(detail?.density).toBe(0.5);
});
