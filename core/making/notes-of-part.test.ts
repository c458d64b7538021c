import { loopSource } from '../../test/generators/loop-source';
import { emptyProject, newClip, newTrack, type Clip, type Project } from '../arrangement/tree';
import { parseSmf, type MidiFile } from '../formats/smf/parse';
import { writeSmf } from '../formats/smf/write';
import { parseKey } from '../theory/key';
import { keySignatureOf, notesOfPart, writePartNotes } from './notes-of-part';

describe('as notes', () => {
  const file: MidiFile = parseSmf(
      writeSmf({
        notes: [0, 1, 2.5].map((startBeat, k) => ({ startBeat, lengthBeats: 0.5, pitch: 62 + 2 * k, velocity: 80 + k, channel: 0 })),
        lengthBeats: 4,
        tempoBpm: 100,
        meter: '4/4',
      }),
    ),
    sources = [loopSource(1, { media: 'midi', tempoBpm: 100 }), loopSource(2)],
    withClip = (changes: Partial<Clip>, length = 8): Project => ({
      ...emptyProject('Notes', 120, { tonic: 2, mode: 'minor' }),
      tracks: [
        newTrack({
          id: 'a',
          name: 'a',
          clips: [
            newClip({ id: 'a1', loopId: 1, startBeat: 0, lengthBeats: length, ...changes }),
            newClip({ id: 'a2', loopId: 2, startBeat: 0, lengthBeats: 4 }),
          ],
        }),
      ],
    }),
    notes = (project: Project) => notesOfPart(project, sources, ({ loopId }) => (loopId === 1 ? file : null));
  test('each repetition anew, at its place and pitch; sounds are left out', () => {
    expect(notes(withClip({ shiftSemitones: 3 })).map(({ startBeat, pitch, lengthBeats }) => [startBeat, pitch, lengthBeats])).toEqual([
      [0, 65, 0.5],
      [1, 67, 0.5],
      [2.5, 69, 0.5],
      [4, 65, 0.5],
      [5, 67, 0.5],
      [6.5, 69, 0.5],
    ]);
  });
  test('from within, at half the speed, cut at the end', () => {
    expect(notes(withClip({ offsetBeats: 1 }, 3)).map(({ startBeat }) => startBeat)).toEqual([0, 1.5]);
    expect(notes(withClip({ overrides: { speedRatio: 0.5 } }, 4)).map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats])).toEqual([
      [0, 1],
      [2, 1],
    ]);
    expect(notes(withClip({}, 2.75)).at(-1)?.lengthBeats).toBeCloseTo(0.25);
  });
  test('as a file that says tempo, meter and key, and is read back', () => {
    const project = withClip({}),
      read = parseSmf(writePartNotes(project, notes(project), 8));
    expect(read).toMatchObject({ meter: '4/4', keySignature: { sharps: -1, minor: true }, lengthBeats: 8 });
    expect(read.tempoBpm).toBeCloseTo(120, 3);
    expect(read.notes.map(({ pitch, velocity }) => [pitch, velocity])).toEqual(
      notes(project).map(({ pitch, velocity }) => [pitch, velocity]),
    );
  });
  test.each([
    ['C major', 0, false],
    ['A minor', 0, true],
    ['D major', 2, false],
    ['Bb major', -2, false],
    ['F# minor', 3, true],
    ['C minor', -3, true],
  ])('%s has %d sharps', (name, sharps, minor) =>
    expect(keySignatureOf(parseKey(name) ?? { tonic: 0, mode: 'major' })).toEqual({ sharps, minor }),
  );
});
