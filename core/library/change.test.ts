import { changeInWords, readChange, titleBy, wrongInPattern } from './change';

const kick = { title: 'Old', file: 'kick_04.wav', pack: 'Harbour', instrument: 'Kick', tempo: '124', key: '' };

test('titles are made of what is known; what is not leaves no gap', () => {
  expect(titleBy('{instrument} {tempo} {n2}', kick, 7)).toBe('Kick 124 07');
  expect(titleBy('{instrument} {key} {n}', kick, 7)).toBe('Kick 7');
  expect(titleBy('{pack}: {title}', kick, 1)).toBe('Harbour: Old');
  expect(titleBy('{key}', kick, 1)).toBeNull();
  expect(titleBy('{n3}', kick, 1234)).toBe('1234');
});
test('a pattern with an unknown part is refused in words, an empty one too', () => {
  expect(wrongInPattern('{instrument} {colour}')).toContain('no {colour}');
  expect(wrongInPattern('  ')).toMatch(/Write a pattern/);
  expect(wrongInPattern('{n2} plain')).toBeNull();
});
test.each<[object, unknown]>([
  [
    { kind: 'fact', attribute: 'tempo', value: '124.5' },
    { kind: 'fact', attribute: 'tempo', value: '124.5' },
  ],
  [
    { kind: 'fact', attribute: 'key', value: null },
    { kind: 'fact', attribute: 'key', value: null },
  ],
  [{ kind: 'fact', attribute: 'key', value: 'x' }, 'That value does not fit.'],
  [{ kind: 'fact', attribute: 'colour', value: '1' }, 'There is no such fact.'],
  [{ kind: 'tempo-times', factor: 3 }, 'A tempo is halved or doubled.'],
  [
    { kind: 'tag', name: '  Night  ', isWanted: true },
    { kind: 'tag', name: 'night', isWanted: true },
  ],
  [{ kind: 'tag', name: '' }, expect.stringMatching(/Name the tag/)],
  [{ kind: 'title', pattern: '{nothing}' }, expect.stringMatching(/no \{nothing\}/)],
  [
    { kind: 'pack', name: 'Other' },
    { kind: 'pack', name: 'Other' },
  ],
  [
    { kind: 'set', stem: '' },
    { kind: 'set', stem: '' },
  ],
  [{ kind: 'explode' }, 'There is no such change.'],
])('%j is read as it should be', (asked, expected) => expect(readChange(asked as never)).toEqual(expected));
test('every change says itself in words', () => {
  const said = [
    { kind: 'fact', attribute: 'tempo', value: '124' },
    { kind: 'fact', attribute: 'key', value: null },
    { kind: 'tempo-times', factor: 2 },
    { kind: 'tag', name: 'night', isWanted: false },
    { kind: 'title', pattern: '{n}' },
    { kind: 'pack', name: 'Other' },
    { kind: 'set', stem: '' },
    { kind: 'archive' },
  ].map((asked) => changeInWords(readChange(asked as never) as never));
  expect(said[0]).toBe('tempo: 124');
  expect(new Set(said).size).toBe(said.length);
  expect(said.every((words) => words.length > 3)).toBe(true);
});
