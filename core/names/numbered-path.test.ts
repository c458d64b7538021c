import { numberedPath } from './numbered-path';

test.each([
  ['Kick.wav', [], 'Kick.wav'],
  ['a/Kick.wav', ['a/Kick.wav'], 'a/Kick (2).wav'],
  ['Kick.wav', ['Kick.wav', 'Kick (2).wav'], 'Kick (3).wav'],
  ['a.b/readme', ['a.b/readme'], 'a.b/readme (2)'],
  ['two.dots.wav', ['two.dots.wav'], 'two.dots (2).wav'],
])('%s beside %j is %s', (path, taken, expected) => expect(numberedPath(path, new Set(taken))).toBe(expected));
