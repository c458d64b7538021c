import { Progression } from 'tonal';
import { belongingOf, chordOfDegree, degreeOf } from './degrees';
import { readChord, transposeChord } from './chord';
import { parseKey, type Key } from './key';
import { chordsOfProgression, parseDegrees, progressions } from './progressions';
import { homeChords, suggestChords } from './suggest-chords';

const key = (text: string): Key => parseKey(text) as Key;

describe('a chord symbol', () => {
  test.each([
    ['Dm/G', 2, 7, 'minor'],
    ['C/E', 0, 4, 'major'],
    ['F♯m7b5', 6, 6, 'minor'],
    ['Asus4', 9, 9, null],
    ['B♭/D', 10, 2, 'major'],
  ] as const)('%s: root %i, bass %i, third %s', (symbol, root, bass, third) =>
    expect(readChord(symbol)).toMatchObject({ root, bass, third }),
  );
  test.each(['Hx', 'K', '', 'Dm/', '7'])('%p is none', (text) => expect(readChord(text)).toBeNull());
  test('is moved with its bass and spelled as the key spells it', () => {
    expect(transposeChord('Dm/G', 2, null)).toBe('Em/A');
    expect(transposeChord('Am7', 1, key('Dm'))).toBe('B♭m7');
    expect(transposeChord('Am7', 1, null)).toBe('A♯m7');
  });
});

describe('degrees', () => {
  // Any handbook of harmony: the triads on the steps of C major and A minor, and what is altered.
  test.each([
    ['C major', 'C Dm Em F G Am Bdim', 'I ii iii IV V vi vii°'],
    ['A minor', 'Am Bdim C Dm Em F G E7', 'i ii° III iv v VI VII V7'],
    ['C major', 'B♭ E♭ A♭ F♯dim Cmaj7 G7', '♭VII ♭III ♭VI ♯iv° Imaj7 V7'],
    ['D dorian', 'Dm G Em', 'I'],
  ])('in %s %s are %s', (name, chords, degrees) => {
    if (name === 'D dorian') {
      const dorian: Key = { tonic: 2, mode: 'minor', church: 'dorian' };
      expect(chords.split(' ').map((chord) => degreeOf(chord, dorian))).toEqual(['i', 'IV', 'ii']);
      return;
    }
    expect(chords.split(' ').map((chord) => degreeOf(chord, key(name)))).toEqual(degrees.split(' '));
    expect(degrees.split(' ').map((degree) => readChord(chordOfDegree(degree, key(name)) ?? '')?.classes)).toEqual(
      chords.split(' ').map((chord) => readChord(chord)?.classes),
    );
  });
  test('the steps agree with tonal’s roman numerals in every major key', () => {
    for (const tonic of ['C', 'D', 'E♭', 'F♯', 'A♭', 'B'])
      for (const degree of ['I', 'ii', 'iii', 'IV', 'V', 'vi']) {
        const [theirs] = Progression.fromRomanNumerals(tonic.replace('♯', '#').replace('♭', 'b'), [
          degree === degree.toLowerCase() ? `${degree.toUpperCase()}m` : degree,
        ]);
        expect(readChord(chordOfDegree(degree, key(`${tonic} major`)) ?? '')?.classes).toEqual(readChord(theirs)?.classes);
      }
  });
  test.each(['VIII', 'H', ''])('%p is none', (text) => expect(chordOfDegree(text, key('C'))).toBeNull());
});

describe('what belongs', () => {
  test.each([
    ['C major', 'Am7', 'belongs'],
    ['C major', 'Fm', 'borrowed'],
    ['C major', 'B♭', 'borrowed'],
    ['C major', 'A7', 'borrowed'], // leads to D minor
    ['C major', 'F♯m', 'outside'],
    ['A minor', 'E7', 'belongs'], // the raised seventh
    ['A minor', 'D', 'borrowed'], // dorian
    ['A minor', 'E♭m', 'outside'],
  ])('in %s %s: %s', (name, chord, expected) => expect(belongingOf(chord, key(name))).toBe(expected));
});

describe('progressions', () => {
  test('twelve bars of blues in A (any handbook)', () => {
    const blues = progressions.find(({ label }) => label === 'blues, 12 bars');
    expect(blues && chordsOfProgression(blues, key('A major')).join(' ')).toBe('A7 A7 A7 A7 D7 D7 A7 A7 E7 D7 A7 E7');
  });
  test('all of them are chords in every key', () => {
    for (const each of progressions)
      for (let tonic = 0; tonic < 12; tonic++)
        for (const chord of chordsOfProgression(each, { tonic, mode: each.mode })) expect(readChord(chord)).not.toBeNull();
  });
  test('degrees are read as typed, and what is none is named', () => {
    expect(parseDegrees('i VII–VI | V', key('Dm'))).toEqual({ chords: ['Dm', 'C', 'B♭', 'A'] });
    expect(parseDegrees('i foo', key('Dm'))).toEqual({ wrong: 'foo' });
  });
});

describe('completion', () => {
  test('what is at home comes first', () => {
    expect(homeChords(key('Dm'))).toEqual(['Dm', 'Edim', 'F', 'Gm', 'Am', 'B♭', 'C', 'A']);
    expect(suggestChords('', key('Dm')).slice(0, 3)).toEqual(['Dm', 'Edim', 'F']);
    expect(suggestChords('a', key('Dm'))[0]).toBe('Am');
    expect(suggestChords('bb', null)[0]).toBe('B♭');
  });
  test('behind a slash stands a bass', () => {
    expect(suggestChords('Dm/g', null)).toEqual(['Dm/G♭', 'Dm/G']);
    expect(suggestChords('Hx/g', null)).toEqual([]);
  });
});
