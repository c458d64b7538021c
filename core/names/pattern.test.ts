import fc from 'fast-check';
import { keyName } from '../theory/key';
import { shapeOf } from './fields';
import { keyOfField, learnPatterns, tempoOfField, type HeardName } from './pattern';
import { readByPattern } from './read-by-pattern';

const heard = (stem: string, tempo: number | null = null, tonic: number | null = null): HeardName => ({
  stem,
  heardTempos: tempo === null ? [] : [tempo],
  heardTonic: tonic,
});
const tonics: Readonly<Record<string, number>> = { A: 9, C: 0, D: 2, E: 4, G: 7 };

// How vendors put names together: common practice; every name is invented.
test.each([
  ['TRK_Piston_124_A1', '_4', ['TRK', 'Piston', '124', 'A1']],
  ['QH - Low Tide - Bass 02', '-3', ['QH', 'Low Tide', 'Bass 02']],
  ['Shaker 62 A', ' 3', ['Shaker', '62', 'A']],
  ['Beat (96 bpm, Dm)', ' 4', ['Beat', '96', 'bpm', 'Dm']],
  ['Beat124.6', '1', ['Beat124.6']],
  ['a.b-c', '.3', ['a', 'b', 'c']],
])('%s is parted as %s', (stem, signature, fields) => {
  const shape = shapeOf(stem);
  expect([shape.signature, shape.fields.map(({ text }) => text)]).toEqual([signature, fields]);
  for (const { text, start, end } of shape.fields) expect(stem.slice(start, end)).toBe(text);
});
test('parts lie in a name in their order, whatever the name is', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 60 }), (stem) => {
      let last = 0;
      for (const { text, start, end } of shapeOf(stem).fields) {
        expect(start).toBeGreaterThanOrEqual(last);
        expect(stem.slice(start, end)).toBe(text);
        last = end;
      }
    }),
  );
});
test.each([
  ['Fsharp', 'F♯ major'],
  ['Gb', 'F♯ major'],
  ['A min', 'A minor'],
  ['F#m', 'F♯ minor'],
  ['Cmin7', 'C minor'],
  ['Bbmaj', 'B♭ major'],
  ['d', null],
  ['Bass', null],
  ['A1', null],
  ['H', null],
])('%s as a key: %s', (text, name) => {
  const key = keyOfField(text);
  expect(key && keyName(key)).toBe(name);
});
test.each([
  ['120', 120],
  ['120bpm', 120],
  ['BPM 93.5', 93.5],
  ['808', null],
  ['12', null],
  ['x120', null],
])('%s as a tempo: %s', (text, tempo) => expect(tempoOfField(text)).toBe(tempo));

test('where the third part is a tempo in most files and agrees with the sound, it is one in the rest, whatever else is a number', () => {
  const names = [
      heard('NF_01_96_Kelp', 96),
      heard('NF_02_97_Foam', 97),
      heard('NF_03_88_Rope', 44),
      heard('NF_04_104_Mast', 104),
      heard('NF_05_123_Hull', 123),
      // Heard as something else, or not at all: it is read as the others are.
      heard('NF_99_71_Keel', 110),
      heard('NF_98_66_Sail'),
    ],
    patterns = learnPatterns(names);
  expect(patterns).toEqual([{ signature: '_4', roles: ['code', 'number', 'tempo', 'words'] }]);
  expect(readByPattern('NF_98_66_Sail', patterns)?.tempoBpm).toBe(66);
  expect(readByPattern('NF_99_71_Keel', patterns)?.words).toBe('Keel');
});
test('numbers that only count are no tempos, though they look like them', () => {
  const names = [61, 62, 63, 64, 65, 66].map((number, k) => heard(`Vibes_0${number}`, 90 + 7 * k));
  expect(learnPatterns(names)[0].roles).toEqual(['code', 'number']);
  expect(readByPattern('Vibes_066', learnPatterns(names))?.tempoBpm).toBeNull();
});
test('a letter is a key where it is heard to be one, and counts where it is not', () => {
  const letters = ['A', 'C', 'D', 'E', 'G', 'A'],
    keys = learnPatterns(letters.map((letter, k) => heard(`Bell ${k} ${letter}`, null, tonics[letter]))),
    parts = learnPatterns(['A', 'B', 'C', 'D', 'A', 'B'].map((letter, k) => heard(`Bell ${k} ${letter}`, null, 5)));
  expect(keys[0].roles[2]).toBe('key');
  expect(parts[0].roles[2]).toBe('letter');
  expect(readByPattern('Bell 3 A', parts)?.key).toBeNull();
});
test('a few names teach nothing, and a name of another shape is read as always', () => {
  expect(learnPatterns([heard('a_120', 120), heard('b_121', 121)])).toEqual([]);
  expect(readByPattern('Another one 120', [{ signature: '_2', roles: ['words', 'tempo'] }])).toBeNull();
});
