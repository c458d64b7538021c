import { chordPitchClasses } from './chord';
import { formatChordLine, isChordSymbol, parseChordLine } from './chord-line';

const chordsOf = (text: string, barBeats = 4) => {
  const line = parseChordLine(text, barBeats);
  return line.ok ? line.chords.map(({ startBeat, symbol }) => `${symbol}@${startBeat}`) : line;
};

test('a word a bar, a dot keeps, a comma parts a bar, a slash is the bass', () => {
  expect(chordsOf('Dm/G . Am,E7')).toEqual(['Dm/G@0', 'Am@8', 'E7@10']);
  expect(chordsOf('C', 3)).toEqual(['C@0']);
  expect(chordsOf('  ')).toEqual([]);
});
test('a chord over another bass is one chord, and its bass is heard in it', () => {
  expect(isChordSymbol('Dm/G')).toBe(true);
  expect(chordPitchClasses('Dm/G')).toEqual(expect.arrayContaining([7, 2, 5, 9]));
});
test('what is no chord is named', () => expect(chordsOf('Dm Hx G')).toEqual({ ok: false, symbol: 'Hx' }));
test.each(['Dm7 G7', 'F♯m . . B♭/D', 'C,F,G,C', '. Am'])('%s is written as it was read', (text) => {
  const line = parseChordLine(text, 4);
  expect(line.ok && formatChordLine(line.chords, 4)).toBe(text);
});
test('nothing is nothing', () => expect(formatChordLine([], 4)).toBe(''));
