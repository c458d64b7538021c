import { pitchClass } from '../../core/units/pitch';
import { Chance } from './chance';
import { chordAt, chordsOf, judgeKey, makeHarmony, scales, voicing, type Harmony } from './harmony';
import type { ChordSpan } from './piece';

const chord = (root: number, intervals: readonly number[], startBeat = 0, lengthBeats = 4): ChordSpan => ({
    startBeat,
    lengthBeats,
    root,
    intervals,
  }),
  major = [0, 4, 7],
  minor = [0, 3, 7];

test('marks are read as semitones above the tonic and a kind of chord', () =>
  expect(chordsOf('0m 10M 7:7 2h7')).toEqual([
    { root: 0, intervals: minor },
    { root: 10, intervals: major },
    { root: 7, intervals: [0, 4, 7, 10] },
    { root: 2, intervals: [0, 3, 6, 10] },
  ]));

describe('a made harmony', () => {
  const made = Array.from({ length: 200 }, (_, seed) => ({ seed, harmony: makeHarmony(new Chance(seed), 4, 4) }));
  test('fills its bars without gaps', () => {
    for (const { harmony } of made) {
      let beat = 0;
      for (const { startBeat, lengthBeats } of harmony.chords) {
        expect(startBeat).toBeCloseTo(beat, 9);
        beat += lengthBeats;
      }
      expect(beat).toBeCloseTo(16, 9);
    }
  });
  test('has a chord on its tonic in nine of ten', () => {
    const met = made.filter(({ harmony: { chords, key } }) => chords.some(({ root }) => root === key.tonic));
    expect(met.length).toBeGreaterThan(0.9 * made.length);
  });
  test('its roots lie in the scale, but for the coloured ones, which are less than a third', () => {
    const outside = made.filter(({ harmony: { chords, key, scale } }) =>
      chords.some(({ root }) => !(scales[scale] as readonly number[]).includes(pitchClass(root - key.tonic))),
    );
    expect(outside.length).toBeGreaterThan(0);
    expect(outside.length).toBeLessThan(made.length / 3);
  });
  test('is the same for the same seed', () => {
    for (const { seed, harmony } of made.slice(0, 10)) expect(makeHarmony(new Chance(seed), 4, 4)).toEqual(harmony);
  });
});

test('the chord at a beat is the last that began; before the first it is the first', () => {
  const chords = [chord(0, major), chord(5, major, 4), chord(7, major, 8)];
  expect([0, 3.99, 4, 7, 12].map((beat) => chordAt(chords, beat).root)).toEqual([0, 0, 5, 5, 7]);
  expect(chordAt(chords, -1).root).toBe(0);
});

test('a voicing has the notes of its chord near the middle, and moves little from the one before', () => {
  const chance = new Chance(3),
    first = voicing(chord(0, major), 60, null, chance),
    then = voicing(chord(5, major), 60, first, chance);
  expect(new Set(first.map(pitchClass))).toEqual(new Set([0, 4, 7]));
  expect(new Set(then.map(pitchClass))).toEqual(new Set([5, 9, 0]));
  for (const note of [...first, ...then]) expect(Math.abs(note - 60)).toBeLessThanOrEqual(14);
  const moved = then.reduce((sum, note) => sum + Math.min(...first.map((other) => Math.abs(other - note))), 0);
  expect(moved).toBeLessThanOrEqual(9);
});

describe('what notes say of the key', () => {
  const harmony = (chords: readonly ChordSpan[], over: Partial<Harmony> = {}): Harmony => ({
      key: { tonic: 0, mode: 'major' },
      scale: 'major',
      chords,
      ...over,
    }),
    part = (...pitches: number[]) => [
      {
        instrument: 'piano',
        gain: 1,
        notes: pitches.map((pitch, k) => ({ startBeat: k, lengthBeats: 1, pitch, velocity: 90, channel: 0 })),
      },
    ];
  test('tonic, third and fifth first: clear', () =>
    expect(judgeKey(harmony([chord(0, major)]), part(60, 64, 67, 60))).toEqual({ key: { tonic: 0, mode: 'major' }, status: 'clear' }));
  test('one note alone: a tonic and no more', () =>
    expect(judgeKey(harmony([chord(0, major)]), part(62, 74))).toEqual({ key: { tonic: 2, mode: 'major' }, status: 'tonicOnly' }));
  test('without the third only the tonic is sure, and only where it sounds enough', () => {
    expect(judgeKey(harmony([chord(0, major)]), part(60, 67, 60)).status).toBe('tonicOnly');
    expect(judgeKey(harmony([chord(0, major)]), part(60, 67, 65, 67, 62, 69)).status).toBe('ambiguous');
  });
  test('without the tonic: ambiguous', () => expect(judgeKey(harmony([chord(0, major)]), part(64, 67, 62)).status).toBe('ambiguous'));
  test('on the relative minor first: ambiguous', () =>
    expect(judgeKey(harmony([chord(9, minor)]), part(60, 64, 69, 69)).status).toBe('ambiguous'));
  test('another scale is modal', () =>
    expect(judgeKey(harmony([chord(0, major)], { scale: 'mixolydian' }), part(60, 64, 67, 70)).status).toBe('modal'));
  test('drums say nothing', () => {
    const drums = part(36, 38, 42).map((each) => ({ ...each, notes: each.notes.map((note) => ({ ...note, channel: 9 })) }));
    expect(judgeKey(harmony([chord(0, major)]), [...drums, ...part(60, 64, 67)]).status).toBe('clear');
  });
});
