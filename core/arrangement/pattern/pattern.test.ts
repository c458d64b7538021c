import fc from 'fast-check';
import { parseKey, type Key } from '../../theory/key';
import { applyEdit } from '../edit';
import { scheduleProject } from '../schedule';
import { emptyProject, newClipOf, newTrack, type ChordMark, type Clip, type Project } from '../tree';
import { emptyPattern, notesOfLine, patternsOfMidi } from './make-pattern';
import { movedInScale, movedToKey } from './move-to-key';
import type { Pattern, PatternNote } from './pattern';
import { notesOfClip, planNotes } from './plan-notes';

const key = (text: string): Key => parseKey(text) as Key,
  note = (startBeat: number, pitch: number, lengthBeats = 1, velocity = 100): PatternNote => ({
    id: `${startBeat}/${pitch}`,
    startBeat,
    lengthBeats,
    pitch,
    velocity,
  }),
  pattern = (notes: PatternNote[], changes: Partial<Pattern> = {}): Pattern =>
    emptyPattern({ id: 'p', name: 'P', lengthBeats: 4, notes, ...changes }),
  clip = (changes: Partial<Clip> = {}): Clip =>
    newClipOf({ kind: 'notes', patternId: 'p' }, { id: 'c', startBeat: 0, lengthBeats: 8, ...changes }),
  piece = (changes: Partial<Project> = {}): Project => ({ ...emptyProject('P', 120, key('C')), ...changes }),
  bars = (...symbols: string[]): ChordMark[] => symbols.map((symbol, bar) => ({ startBeat: bar * 4, symbol }));
let count = 0;
const newId = () => `n${count++}`;

describe('a clip of notes', () => {
  test('repeats its pattern, from where it is cut, no note longer than the clip', () => {
    const of = pattern([note(0, 60), note(3, 64, 2)]);
    expect(
      notesOfClip(clip({ startBeat: 4, lengthBeats: 6, offsetBeats: 2 }), of, piece()).map((each) => [
        each.startBeat,
        each.pitch,
        each.lengthBeats,
      ]),
    ).toEqual([
      [5, 64, 2],
      [6, 60, 1],
      [9, 64, 1],
    ]);
  });
  test('the project from C to D: two up; drums stay', () => {
    const inD = piece({ key: key('D') });
    expect(notesOfClip(clip(), pattern([note(0, 60)], { key: key('C') }), inD)[0].pitch).toBe(62);
    expect(notesOfClip(clip({ shiftSemitones: 5 }), pattern([note(0, 36)], { isDrums: true, key: key('C') }), inD)[0].pitch).toBe(36);
  });
  test('drums never move, whatever key, chords and shift (property)', () =>
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 11 }),
        fc.constantFrom('C', 'F♯m', 'B♭7', 'Dm/G'),
        fc.integer({ min: -12, max: 12 }),
        fc.array(fc.integer({ min: 35, max: 81 }), { minLength: 1, maxLength: 12 }),
        (tonic, symbol, shiftSemitones, pitches) => {
          const drums = pattern(
              pitches.map((pitch, k) => note(k / 4, pitch)),
              { isDrums: true, key: key('C') },
            ),
            there = notesOfClip(
              clip({ shiftSemitones, chordWay: 'roots', lengthBeats: 4 }),
              drums,
              piece({ key: { tonic, mode: 'minor' }, chords: bars(symbol) }),
            );
          expect(there.map((each) => each.pitch).sort()).toEqual([...pitches].sort());
        },
      ),
    ));
  test('equal bars are one request, a changed note asks for its own bar', () => {
    const of = pattern([note(0, 60), note(5, 64)], { lengthBeats: 8 }),
      plan = planNotes(clip({ lengthBeats: 16 }), of, piece()),
      after = planNotes(clip({ lengthBeats: 16 }), { ...of, notes: [of.notes[0], { ...of.notes[1], pitch: 65 }] }, piece());
    expect(plan[0].request).toEqual(plan[2].request);
    expect(after[0].request).toEqual(plan[0].request);
    expect(after[1].request).not.toEqual(plan[1].request);
  });
  test('is scheduled as bars on their lines, and a pattern that is gone is silent', () => {
    const tracks = [newTrack({ id: 't', name: 'T', clips: [clip({ startBeat: 4, lengthBeats: 8 })] })],
      made = scheduleProject(piece({ tracks, patterns: [pattern([note(0, 60)])] }), new Map());
    expect(made.events.map(({ startFrame }) => startFrame)).toEqual([4 * 22050, 8 * 22050]);
    expect(made.requests.size).toBe(1);
    expect(scheduleProject(piece({ tracks }), new Map()).events).toEqual([]);
  });
});

describe('edits of patterns', () => {
  const start = piece({ patterns: [pattern([note(0, 60), note(1, 62)])] });
  test('notes come, go and change, and all is taken back', () => {
    const edit = { kind: 'change-notes', patternId: 'p', gone: ['0/60'], put: [{ ...note(1, 62), pitch: 65 }, note(2, 67)] } as const,
      { project, inverse } = applyEdit(start, edit);
    expect(project.patterns[0].notes.map(({ pitch }) => pitch)).toEqual([65, 67]);
    expect(applyEdit(project, inverse).project.patterns[0].notes).toEqual(start.patterns[0].notes);
  });
  test('patterns come and go', () => {
    const { project, inverse } = applyEdit(start, { kind: 'remove-pattern', patternId: 'p' });
    expect(project.patterns).toEqual([]);
    expect(applyEdit(project, inverse).project).toEqual(start);
    expect(() => applyEdit(project, { kind: 'set-pattern', patternId: 'p', changes: { name: 'x' } })).toThrow('no longer there');
  });
  test.each([
    [{ pitch: 128 }, 'one of 128'],
    [{ velocity: 0 }, 'velocity'],
    [{ startBeat: -1 }, 'lie in its pattern'],
  ])('%j is refused in words', (changes, words) =>
    expect(() => applyEdit(start, { kind: 'change-notes', patternId: 'p', gone: [], put: [{ ...note(0, 60), ...changes }] })).toThrow(
      words,
    ),
  );
});

describe('a note in another key', () => {
  test.each([
    [64, 'C', 'Dm', 65], // the third step: E becomes F
    [64, 'C', 'D', 66],
    [71, 'C', 'Cm', 70],
    [60, 'C', 'A', 57], // the shortest way: three down
    [61, 'C', 'D', 63], // what is no step goes with the one below
  ])('%i of %s in %s is %i', (pitch, from, to, expected) => expect(movedToKey(pitch, key(from), key(to))).toBe(expected));
  test('dorian into major: the lowered third and seventh rise', () =>
    expect([62, 65, 72].map((pitch) => movedToKey(pitch, { tonic: 2, mode: 'minor', church: 'dorian' }, key('D')))).toEqual([62, 66, 73]));
  test('steps of a scale, over the octave and back', () => {
    expect([60, 64, 71].map((pitch) => movedInScale(pitch, key('C'), 1))).toEqual([62, 65, 72]);
    expect(movedInScale(60, key('C'), -1)).toBe(59);
    expect(movedInScale(movedInScale(65, key('Dm'), 9), key('Dm'), -9)).toBe(65);
  });
});

describe('made from what there is', () => {
  test('a MIDI loop, at half its length; drums and tones apart', () => {
    const found = patternsOfMidi(
      {
        notes: [
          { startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 90, channel: 0 },
          { startBeat: 3, lengthBeats: 1, pitch: 36, velocity: 90, channel: 9 },
          { startBeat: 9, lengthBeats: 1, pitch: 62, velocity: 90, channel: 0 },
        ],
      },
      { loopId: 4, instrument: 'piano', key: key('C'), lengthBeats: 8 },
      'Keys',
      1,
      0.5,
      newId,
    );
    expect(
      found.map(({ isDrums, lengthBeats, fromLoopId, notes }) => [
        isDrums,
        lengthBeats,
        fromLoopId,
        notes.map(({ startBeat }) => startBeat),
      ]),
    ).toEqual([
      [false, 4, 4, [0]],
      [true, 4, 4, [1.5]],
    ]);
  });
  test('a line that was heard, each note as sure as it is clear', () => {
    const heard = (startSeconds: number, cents: number, lengthSeconds: number) => ({
        startSeconds,
        lengthSeconds,
        pitch: 60,
        cents,
        strength: 1,
      }),
      [clear, doubted] = notesOfLine([heard(0.5, 0, 0.5), heard(1, 45, 0.06)], { startSeconds: 0, tempoBpm: 120, lengthBeats: 8 }, newId);
    expect([clear.startBeat, clear.lengthBeats]).toEqual([1, 1]);
    expect(clear.confidence).toBeGreaterThan(0.9);
    expect(doubted.confidence).toBeLessThan(0.4);
  });
});
