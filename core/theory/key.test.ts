import { Key as TonalKey } from 'tonal';
import {
  allKeys,
  fifthsPosition,
  keyCode,
  keyName,
  noteName,
  parseKey,
  parseKeyCode,
  relativeKey,
  shiftToKey,
  shortestShift,
  transposeKey,
} from './key';
import { chordPitchClasses } from './chord';
import { noteToHz, semitonesToRatio } from '../units/pitch';
import { dbToRatio } from '../units/level';

const key = (text: string) => {
  const parsed = parseKey(text);
  if (!parsed) throw new Error(text);
  return parsed;
};

describe('keys', () => {
  test.each([
    ['Dm', 'D minor'],
    ['F# minor', 'F♯ minor'],
    ['Bbmaj', 'B♭ major'],
    ['D dorian', 'D minor'],
    ['f♯min', 'F♯ minor'],
    ['CM', 'C major'],
    ['A', 'A major'],
    ['ebm', 'E♭ minor'],
  ])('%s reads as %s', (text, name) => expect(keyName(key(text))).toBe(name));
  test.each(['', 'H', 'Drum', 'Cello', 'Amen', '120'])('%s is no key', (text) => expect(parseKey(text)).toBeNull());
  test('every name reads back', () => allKeys.forEach((each) => expect(parseKey(keyName(each))).toEqual(each)));
  test('relative keys agree with the reference library tonal', () => {
    for (const tonic of ['C', 'G', 'D', 'A', 'E', 'F', 'Bb', 'Eb'])
      expect(relativeKey(key(`${tonic} major`))).toEqual(key(`${TonalKey.majorKey(tonic).minorRelative}m`));
  });
  test('the circle of fifths: C 0, G 1, D 2, A minor 0', () =>
    expect(['C', 'G', 'D', 'Am', 'F'].map((name) => fifthsPosition(key(name)))).toEqual([0, 1, 2, 0, 11]));
});

describe('shifts by common practice', () => {
  test('B♭ minor to D minor is +4 (or −8)', () => expect(shiftToKey(key('Bbm'), key('Dm'))).toBe(4));
  test('C major to D major is +2', () => expect(shiftToKey(key('C'), key('D'))).toBe(2));
  test('a relative minor needs none', () => expect(shiftToKey(key('Am'), key('C'))).toBe(0));
  test('the shortest way is −5 to +6', () => {
    for (let from = 0; from < 12; from++)
      for (let to = 0; to < 12; to++) {
        const shift = shortestShift(from, to);
        expect(shift).toBeGreaterThanOrEqual(-5);
        expect(shift).toBeLessThanOrEqual(6);
        expect(transposeKey({ tonic: from, mode: 'minor' }, shift).tonic).toBe(to);
      }
  });
});

describe('pitch and level', () => {
  test('A4 = 440 Hz (ISO 16:1975), two octaves × 4', () => {
    expect(noteToHz(69)).toBe(440);
    expect(semitonesToRatio(24)).toBe(4);
    expect(noteToHz(60)).toBeCloseTo(261.6256, 3);
  });
  test('−2 dB is × 0.794', () => expect(dbToRatio(-2)).toBeCloseTo(0.794, 3));
  test('chords', () => {
    expect(chordPitchClasses('Dm7')).toEqual([2, 5, 9, 0]);
    expect(chordPitchClasses('B♭')).toEqual([10, 2, 5]);
    expect(chordPitchClasses('xyz')).toBeNull();
  });
});

test('notes are named with their octave', () => expect([60, 59, 21, 127, 61].map(noteName)).toEqual(['C4', 'B3', 'A0', 'G9', 'C♯4']));

test('every key has a code of its own, which reads back; nothing else is one', () => {
  const codes = allKeys.map(keyCode);
  expect(new Set(codes).size).toBe(24);
  expect(codes.map(parseKeyCode)).toEqual(allKeys);
  expect([parseKeyCode('5m'), parseKeyCode('11M')]).toEqual([
    { tonic: 5, mode: 'minor' },
    { tonic: 11, mode: 'major' },
  ]);
  expect(['12M', 'none', '5', 'm', '', '-1m'].map(parseKeyCode)).toEqual(new Array(6).fill(null));
});
