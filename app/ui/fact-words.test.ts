import { inWords, percent, toField, withHalfAndDouble } from './fact-words';

test.each([
  ['tempo', 140, '140'],
  ['tempo', 93.5, '93.5'],
  ['tempo', 119.9999, '120'],
  ['beats', 16, '16 beats, 4 bars'],
  ['beats', 4, '4 beats, 1 bar'],
  ['beats', 6, '6 beats, 1.50 bars'],
  ['start', 0.0001, 'at the very start'],
  ['start', 0.1234, '0.123 s in'],
  ['key', 'unpitched', 'unpitched'],
  ['key', 'no-single-key', 'no single key'],
  ['key', { tonic: 9, mode: 'minor' }, 'A minor'],
  ['meter', '6/8', '6/8'],
  ['meter', '5/4', '5/4'],
  ['meter', 'unknown', 'unknown, none of 4/4, 3/4, 6/8'],
] as const)('%s %p is told as %s', (attribute, value, words) => expect(inWords(attribute, value, 4)).toBe(words));

test('bars are counted by the meter', () => {
  expect(inWords('beats', 6, 3)).toBe('6 beats, 2 bars');
  expect(inWords('beats', 6, 2)).toBe('6 beats, 3 bars');
  expect(inWords('beats', 14, 3.5)).toBe('14 beats, 4 bars');
});

test('an instrument has a name for people, one we do not know its own', () => {
  expect(inWords('instrument', 'synth-bass', 4)).not.toContain('-');
  expect(inWords('instrument', 'glass harp', 4)).toBe('glass harp');
});

test('a value is sent back as it is read', () => {
  expect([
    toField('tempo', 120.5),
    toField('key', 'unpitched'),
    toField('key', 'no-single-key'),
    toField('key', { tonic: 5, mode: 'minor' }),
  ]).toEqual(['120.5', 'un', 'no', '5m']);
});

test('what is beyond doubt is sure, the rest a percentage', () =>
  expect([percent(0.999), percent(0.824), percent(0)]).toEqual(['sure', '82 %', '0 %']));

test('half and double are always among the rivals of a tempo, once, and within reason', () => {
  const values = (rivals: { value: number; probability: number }[], tempo: number) =>
    withHalfAndDouble(rivals, tempo).map(({ value }) => value);
  expect(values([{ value: 93, probability: 0.2 }], 140)).toEqual([93, 70, 280]);
  expect(values([{ value: 70.1, probability: 0.2 }], 140)).toEqual([70.1, 280]);
  expect(values([], 220)).toEqual([110]);
  expect(
    values(
      [1, 2, 3, 4, 5].map((k) => ({ value: 80 + k, probability: 0.1 })),
      140,
    ),
  ).toEqual([81, 82, 83, 84, 70, 280]);
});
