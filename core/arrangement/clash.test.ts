import { barsAgainstChords, clashFrom, clashOf } from './clash';
import { chordAtBeat } from './harmony/harmony';

const notes = (...pitches: number[]): number[] => Array.from({ length: 12 }, (_, pitch) => (pitches.includes(pitch) ? 1 : 0)),
  cMajor = { tonic: 0, mode: 'major' as const };

describe('notes against C E G in C major (common practice)', () => {
  test.each([
    ['the chord itself', [0, 4, 7], 0],
    ['A, beside no note of it', [9], 0],
    ['F, a semitone above E, in the key', [5], 0.5],
    ['F♯, a semitone below G, out of the key', [6], 1],
    ['B♭, out of the key', [10], 0.3],
  ] as const)('%s', (_, pitches, degree) => expect(clashOf(notes(...pitches), [0, 4, 7], cMajor).degree).toBeCloseTo(degree, 9));
  test('what rubs is named, the hardest first', () => expect(clashOf(notes(0, 5, 6), [0, 4, 7], cMajor).pitchClasses).toEqual([6, 5]));
  test('silence, no chord and no key say nothing wrong', () => {
    expect(clashOf(notes(), [0, 4, 7], cMajor)).toEqual({ degree: 0, pitchClasses: [] });
    expect(clashOf(notes(1), [], cMajor).degree).toBe(0);
    expect(clashOf(notes(10), [0, 4, 7], null).degree).toBe(0);
  });
});

test('the chord at a beat is the last that began', () => {
  const chords = [
    { startBeat: 0, symbol: 'Dm' },
    { startBeat: 8, symbol: 'G' },
  ];
  expect(chordAtBeat(chords, 7.9)?.symbol).toBe('Dm');
  expect(chordAtBeat(chords, 8)?.symbol).toBe('G');
  expect(chordAtBeat(chords, -1)).toBeNull();
});

test('bars meet the chords of the place their cycle begins at, transposed as they sound', () => {
  const chords = [
      { startBeat: 0, symbol: 'C' },
      { startBeat: 4, symbol: 'F#' },
    ],
    against = (start: number, shift = 0) => barsAgainstChords([notes(0, 4, 7), notes(0, 4, 7)], shift, start, 4, chords, cMajor);
  expect(against(0).map(({ symbol, clash }) => [symbol, clash.degree > clashFrom])).toEqual([
    ['C', false],
    ['F#', true],
  ]);
  expect(against(4)[0].symbol).toBe('F#');
  expect(against(0, 6).map(({ clash }) => clash.degree > clashFrom)).toEqual([true, false]);
});
