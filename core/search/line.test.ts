import fc from 'fast-check';
import { completionsOf, lineHelp, partInWords, readLine, turnedPart, withoutPart } from './line';
import { meantWords, wordDistance } from './typos';

const meant = (text: string) => readLine(text).parts.map(({ meaning, isNot }) => `${isNot ? 'not ' : ''}${JSON.stringify(meaning)}`);

test.each<[string, object[]]>([
  ['118-126', [{ kind: 'tempo', fromBpm: 118, toBpm: 126 }]],
  [
    '118–126 bpm',
    [
      { kind: 'tempo', fromBpm: 118, toBpm: 126 },
      { kind: 'word', word: 'bpm' },
    ],
  ],
  ['120bpm', [{ kind: 'tempo', fromBpm: 119.5, toBpm: 120.5 }]],
  ['±6%', [{ kind: 'within', percent: 6 }]],
  ['within 6 %', [{ kind: 'within', percent: 6 }]],
  ['±2st', [{ kind: 'shift', semitones: 2 }]],
  ['within 3 semitones', [{ kind: 'shift', semitones: 3 }]],
  ['key:fifth', [{ kind: 'key-relation', relation: 'fifth' }]],
  ['key:C', [{ kind: 'key', key: { tonic: 0, mode: 'major' } }]],
  ['key:ebmin', [{ kind: 'key', key: { tonic: 3, mode: 'minor' } }]],
  ['F#m', [{ kind: 'key', key: { tonic: 6, mode: 'minor' } }]],
  ['4 bars', [{ kind: 'bars', from: 4, to: 4 }]],
  ['2-8bars', [{ kind: 'bars', from: 2, to: 8 }]],
  ['is:one-shots', [{ kind: 'is', what: 'one-shot' }]],
  ['is:notes', [{ kind: 'is', what: 'notes' }]],
  ['by:"Teo Brandvik"', [{ kind: 'by', name: 'Teo Brandvik' }]],
  ['added:2w', [{ kind: 'added', days: 14 }]],
  ['added:today', [{ kind: 'added', days: 1 }]],
  // What only looks like structure is words.
  ['909', [{ kind: 'word', word: '909' }]],
  [
    'a-team',
    [
      { kind: 'word', word: 'a' },
      { kind: 'word', word: 'team' },
    ],
  ],
  [
    'am I',
    [
      { kind: 'word', word: 'am' },
      { kind: 'word', word: 'i' },
    ],
  ],
  [
    'is:purple',
    [
      { kind: 'word', word: 'is' },
      { kind: 'word', word: 'purple' },
    ],
  ],
  [
    '126-118',
    [
      { kind: 'word', word: '126' },
      { kind: 'word', word: '118' },
    ],
  ],
  [
    'Café ночь',
    [
      { kind: 'word', word: 'cafe' },
      { kind: 'word', word: 'ночь' },
    ],
  ],
])('%s', (text, meanings) => expect(readLine(text).parts.map(({ meaning }) => meaning)).toEqual(meanings));

test('words and structure stand side by side, and a minus turns a part round', () => {
  expect(meant('tight shaker -pad 90-100 -is:notes')).toEqual([
    '{"kind":"word","word":"tight"}',
    '{"kind":"word","word":"shaker"}',
    'not {"kind":"word","word":"pad"}',
    '{"kind":"tempo","fromBpm":90,"toBpm":100}',
    'not {"kind":"is","what":"notes"}',
  ]);
});
test('a part is taken out, and turned round and back, in the line itself', () => {
  const text = 'shaker 118-126 Fm',
    [, tempo] = readLine(text).parts;
  expect(withoutPart(text, tempo)).toBe('shaker Fm');
  const turned = turnedPart(text, tempo);
  expect(turned).toBe('shaker -118-126 Fm');
  expect(readLine(turned).parts[1]).toMatchObject({ isNot: true, meaning: { kind: 'tempo' } });
  expect(turnedPart(turned, readLine(turned).parts[1])).toBe(text);
});
test('parts stand where they say, whatever is typed', () => {
  fc.assert(
    fc.property(fc.string({ maxLength: 80 }), (text) => {
      for (const { start, end, text: own } of readLine(text).parts) expect(text.slice(start, end)).toBe(own);
    }),
  );
});
test('each form of the help is read as more than words, and said in words', () => {
  for (const { form } of lineHelp.filter(({ form: each }) => !each.startsWith('-'))) {
    const [part] = readLine(form).parts;
    expect([form, part.meaning.kind]).not.toEqual([form, 'word']);
    expect(partInWords(part)).toBeTruthy();
  }
});
test('what is begun is completed', () => {
  expect(completionsOf('shaker is:un').map(({ form }) => form)).toEqual(['is:unpitched', 'is:unused']);
  expect(completionsOf('key')[0].form).toMatch(/^key:/);
  expect(completionsOf('s')).toEqual([]);
});
test('typing errors: put in, left out, replaced, exchanged', () => {
  expect(wordDistance('shaker', 'shaker', 2)).toBe(0);
  for (const typed of ['shakr', 'shakker', 'shaher', 'shkaer']) expect(wordDistance(typed, 'shaker', 2)).toBe(1);
  expect(wordDistance('shaker', 'snare', 2)).toBe(3);
  const there = ['shaker', 'snare', 'marimba', 'shakuhachi'];
  expect(meantWords('shkaer', there)).toEqual(['shaker']);
  expect(meantWords('marmiba', there)).toEqual(['marimba']);
  expect(meantWords('marb', there)).toEqual([]);
  expect(meantWords('kik', ['kick'])).toEqual([]);
});
