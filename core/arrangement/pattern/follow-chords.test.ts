import { patternNote as note } from '../../../test/generators/pattern-note';
import fc from 'fast-check';
import { Note as TonalNote, VoiceLeading, Voicing } from 'tonal';
import { chordPitchClasses } from '../../theory/chord';
import { parseKey } from '../../theory/key';
import { rangeOf } from '../../theory/ranges';
import { pitchClass } from '../../units/pitch';
import { emptyProject, type ChordMark, type Project } from '../tree';
import { followChords, nearestVoicing, writtenChordOf } from './follow-chords';
import { inPlayingOrder, type PatternNote } from './pattern';

const piece = (changes: Partial<Project> = {}): Project => ({ ...emptyProject('P', 120, parseKey('C')), ...changes }),
  bars = (...symbols: string[]): ChordMark[] => symbols.map((symbol, bar) => ({ startBeat: bar * 4, symbol }));

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
