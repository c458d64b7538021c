import fc from 'fast-check';
import { Note as TonalNote, VoiceLeading, Voicing } from 'tonal';
import { chordPitchClasses } from '../../theory/chord';
import { parseKey, type Key } from '../../theory/key';
import { rangeOf } from '../../theory/ranges';
import { pitchClass } from '../../units/pitch';
import { applyEdit } from '../edit';
import { scheduleProject } from '../schedule';
import { emptyProject, newClipOf, newTrack, type ChordMark, type Clip, type Project } from '../tree';
import { drumPattern, drumStyles, kitParts, type DrumWishes } from './drum-pattern';
import { humanised, legato, moved, nearestLine, quantised, repeated, reversed, transposed, transposedInScale } from './edit-notes';
import { followChords, nearestVoicing, writtenChordOf } from './follow-chords';
import { emptyPattern, notesOfLine, patternsOfMidi } from './make-pattern';
import { movedInScale, movedToKey } from './move-to-key';
import { inPlayingOrder, type Pattern, type PatternNote } from './pattern';
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

describe('notes follow chords', () => {
  const follow = (notes: PatternNote[], chords: ChordMark[], instrument: string | null = 'piano', written: ChordMark[] = []) =>
    followChords(notes, { writtenKey: null, writtenChords: written, wanted: piece({ chords }), instrument, barBeats: 4, originBeat: 0 });

  test('an arpeggio on A becomes one on each of ten chords', () => {
    const ten = ['A', 'D', 'E7', 'F♯m', 'Bm', 'C♯m', 'D', 'Dm', 'E', 'A'],
      once = [57, 61, 64, 69],
      notes = ten.flatMap((_, bar) => once.map((pitch, k) => note(bar * 4 + k, pitch))),
      out = follow(notes, bars(...ten));
    expect(out).toHaveLength(notes.length);
    for (const [bar, symbol] of ten.entries()) {
      const here = out.filter(({ startBeat }) => Math.floor(startBeat / 4) === bar),
        chord = chordPitchClasses(symbol) ?? [];
      expect(here.every(({ pitch }) => chord.includes(pitchClass(pitch)))).toBe(true);
      // It still rises, all of its triad is there, and rhythm and strength are what they were.
      expect(here.map(({ pitch }) => pitch)).toEqual([...here.map(({ pitch }) => pitch)].sort((a, b) => a - b));
      expect(new Set(here.map(({ pitch }) => pitchClass(pitch))).size).toBeGreaterThanOrEqual(3);
      expect(here.map(({ startBeat }) => startBeat % 4)).toEqual([0, 1, 2, 3]);
    }
  });
  // Common tones stay, the others go to the nearest (the rule of any handbook of harmony; I–IV–V–I in C).
  test.each([
    ['F', [60, 65, 69]],
    ['Am', [60, 64, 69]],
    ['G', [59, 62, 67]],
    ['Em', [59, 64, 67]],
  ])('C E G over %s is %j', (symbol, expected) =>
    expect(follow([note(0, 60), note(0, 64), note(0, 67)], bars(symbol)).map(({ pitch }) => pitch)).toEqual(expected),
  );
  test('moves no more than tonal’s voice leading does, in the mean of all pairs of triads', () => {
    const roots = ['C', 'D', 'E', 'F', 'G', 'A', 'B'],
      triads = roots.flatMap((root) => [root, `${root}m`]);
    let ours = 0,
      theirs = 0,
      pairs = 0;
    for (const from of triads)
      for (const to of triads) {
        const start = Voicing.get(from, ['C3', 'C6']),
          pitches = start.map((name) => TonalNote.midi(name) ?? 0),
          next = Voicing.get(to, ['C3', 'C6'], undefined, VoiceLeading.topNoteDiff, start);
        if (pitches.length === 0 || next.length !== pitches.length) continue;
        const goals = nearestVoicing(
          [...pitches].sort((a, b) => a - b),
          chordPitchClasses(to) ?? [],
          [36, 96],
        );
        ours += [...goals].reduce((sum, [a, b]) => sum + Math.abs(b - a), 0) / pitches.length;
        theirs += next.reduce((sum, name, k) => sum + Math.abs((TonalNote.midi(name) ?? 0) - pitches[k]), 0) / pitches.length;
        pairs++;
      }
    expect(pairs).toBeGreaterThan(100);
    expect(ours / pairs).toBeLessThanOrEqual(theirs / pairs);
  });
  test('a bass takes the root, or the bass behind the slash', () => {
    const walk = [note(0, 36), note(1, 40), note(2, 43)];
    expect(follow(walk, bars('F'), 'electric-bass').map(({ pitch }) => pitchClass(pitch))[0]).toBe(5);
    expect(follow(walk, bars('F/A'), 'electric-bass').map(({ pitch }) => pitchClass(pitch))[0]).toBe(9);
  });
  test('what passes goes onto the scale between its neighbours', () => {
    // C D E over F: D passes, between C and F.
    const out = follow([note(0, 60), note(1.5, 62, 0.25), note(2, 64)], bars('F'), 'piano', bars('C'));
    expect(out.map(({ pitch }) => pitch)).toEqual([60, 62, 65]);
  });
  test('what is held over a change, and is foreign there, is struck again', () => {
    const out = follow([note(0, 64, 8)], bars('C', 'F'));
    expect(out.map(({ startBeat, lengthBeats }) => [startBeat, lengthBeats])).toEqual([
      [0, 4],
      [4, 4],
    ]);
  });
  test('where no chord holds nothing is moved', () => {
    const notes = [note(0, 61), note(1, 66)];
    expect(follow(notes, []).map(({ pitch }) => pitch)).toEqual([61, 66]);
    expect(follow(notes, bars('N.C.')).map(({ pitch }) => pitch)).toEqual([61, 66]);
  });
  test('on strong beats 98 % are of the chord, in the mean a note moves by three at the most, none leaves its instrument (property)', () => {
    let strong = 0,
      right = 0,
      movement = 0,
      all = 0;
    fc.assert(
      fc.property(
        fc.constantFrom('piano', 'cello', 'electric-bass', 'flute', 'acoustic-guitar'),
        fc.array(fc.tuple(fc.integer({ min: 0, max: 31 }), fc.integer({ min: -8, max: 12 })), { minLength: 4, maxLength: 24 }),
        fc.array(fc.constantFrom('C', 'Dm', 'Em', 'F', 'G7', 'Am', 'Bdim', 'E7', 'B♭', 'Fm', 'C/E', 'Dm/G'), {
          minLength: 2,
          maxLength: 2,
        }),
        (instrument, places, symbols) => {
          const [low, high] = rangeOf(instrument),
            middle = Math.round((low + high) / 2),
            notes = places.map(([step, away]) => note(step / 4, middle + away, 0.25)),
            out = follow(notes, bars(...symbols), instrument);
          out.forEach((each) => {
            expect(each.pitch).toBeGreaterThanOrEqual(low);
            expect(each.pitch).toBeLessThanOrEqual(high);
            if (each.startBeat % 2 !== 0) return;
            strong++;
            if (chordPitchClasses(symbols[Math.floor(each.startBeat / 4)])?.includes(pitchClass(each.pitch))) right++;
          });
          // None is long enough to be struck again, so that they pair up in order.
          const before = inPlayingOrder(notes);
          out.forEach((each, k) => (movement += Math.abs(each.pitch - before[k].pitch)));
          all += out.length;
        },
      ),
      { numRuns: 200, seed: 7 },
    );
    expect(right / strong).toBeGreaterThanOrEqual(0.98);
    expect(movement / all).toBeLessThanOrEqual(3);
  });
  test('over what notes were written is found in them', () => {
    const found = (...pitches: number[]) =>
      writtenChordOf(
        pitches.map((pitch) => ({ pitch, lengthBeats: 1 })),
        null,
      );
    expect(found(57, 61, 64)).toMatchObject({ root: 9, third: 'major' });
    expect(found(62, 65, 69)).toMatchObject({ root: 2, third: 'minor' });
    expect(found()).toBeNull();
  });
});

describe('what is done to notes', () => {
  test('quantised by strength, straight and swung', () => {
    expect(quantised([note(0.2, 60), note(0.45, 60)], 0.5, 1, 0).map(({ startBeat }) => startBeat)).toEqual([0, 0.5]);
    expect(quantised([note(0.2, 60)], 0.5, 0.5, 0)[0].startBeat).toBeCloseTo(0.1, 9);
    expect(nearestLine(0.6, 0.5, 1)).toBe(0.75);
    expect(nearestLine(1.02, 0.5, 1)).toBe(1);
  });
  test('humanised: a little, and the same for the same seed', () => {
    const notes = Array.from({ length: 50 }, (_, k) => note(k, 60)),
      out = humanised(notes, 1, 3);
    expect(out).toEqual(humanised(notes, 1, 3));
    expect(out).not.toEqual(humanised(notes, 1, 4));
    for (const [k, each] of out.entries()) {
      expect(Math.abs(each.startBeat - k)).toBeLessThanOrEqual(1 / 16);
      expect(Math.abs(each.velocity - 100)).toBeLessThanOrEqual(25);
    }
  });
  test('transposed, in the scale, held, backwards, moved, once more', () => {
    expect(transposed([note(0, 126)], 5)[0].pitch).toBe(127);
    expect(transposedInScale([note(0, 64)], key('C'), 1)[0].pitch).toBe(65);
    expect(legato([note(0, 60, 0.1), note(0, 64, 0.1), note(2, 67, 0.1)]).map(({ lengthBeats }) => lengthBeats)).toEqual([2, 2, 0.1]);
    expect(reversed([note(0, 60, 1), note(2, 64, 2)]).map(({ startBeat }) => startBeat)).toEqual([3, 0]);
    expect(moved([note(0, 60), note(1, 62)], { beats: -1, semitones: 2 }).map(({ startBeat, pitch }) => [startBeat, pitch])).toEqual([
      [0, 62],
      [1, 64],
    ]);
    expect(repeated([note(0, 60), note(0.9, 62, 0.2)], 0.5, newId).map(({ startBeat }) => startBeat)).toEqual([1.5, 2.4]);
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

describe('drums by wishes', () => {
  const wishes = (changes: Partial<DrumWishes> = {}): DrumWishes => ({
    styleId: 'backbeat',
    bars: 4,
    barBeats: 4,
    busy: 0.5,
    hard: 0.7,
    swing: 0,
    fillEveryBars: 4,
    parts: new Set(kitParts),
    seed: 1,
    ...changes,
  });
  const plain = (notes: readonly PatternNote[]) => notes.map(({ id: _, ...rest }) => rest);
  test('the same wishes give the same, another seed another', () => {
    expect(plain(drumPattern(wishes(), newId))).toEqual(plain(drumPattern(wishes(), newId)));
    expect(plain(drumPattern(wishes(), newId))).not.toEqual(plain(drumPattern(wishes({ seed: 2 }), newId)));
  });
  test('busier is more, harder is louder, a swing lets the second sixteenth wait', () => {
    for (const { id } of drumStyles) {
      expect(drumPattern(wishes({ styleId: id, busy: 1 }), newId).length).toBeGreaterThan(
        drumPattern(wishes({ styleId: id, busy: 0 }), newId).length,
      );
      const mean = (hard: number) => {
        const notes = drumPattern(wishes({ styleId: id, hard }), newId);
        return notes.reduce((sum, { velocity }) => sum + velocity, 0) / notes.length;
      };
      expect(mean(1)).toBeGreaterThan(mean(0.1) + 20);
    }
    expect(drumPattern(wishes({ busy: 1, swing: 1 }), newId).some(({ startBeat }) => Math.abs((startBeat % 0.5) - 0.375) < 1e-9)).toBe(
      true,
    );
  });
  test('only the parts that are wanted play; a fill ends every fourth bar; other meters hold', () => {
    expect(new Set(drumPattern(wishes({ parts: new Set(['kick']) }), newId).map(({ pitch }) => pitch))).toEqual(new Set([36]));
    const toms = drumPattern(wishes(), newId).filter(({ pitch }) => [48, 45, 41].includes(pitch));
    expect(toms.length).toBeGreaterThan(0);
    expect(toms.every(({ startBeat }) => startBeat >= 14)).toBe(true);
    const seven = drumPattern(wishes({ barBeats: 7, fillEveryBars: 0 }), newId);
    expect(Math.max(...seven.map(({ startBeat }) => startBeat))).toBeLessThan(28);
  });
});
