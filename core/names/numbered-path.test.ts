import { numberedPath } from './numbered-path';

test.each([
  ['Kick.wav', [], 'Kick.wav'],
  ['a/Kick.wav', ['a/Kick.wav'], 'a/Kick (2).wav'],
  ['Kick.wav', ['Kick.wav', 'Kick (2).wav'], 'Kick (3).wav'],
  ['a.b/readme', ['a.b/readme'], 'a.b/readme (2)'],
  // One that is numbered already: counted on, whichever of the two comes first.
  ['Kick (2).wav', ['Kick.wav', 'Kick (2).wav'], 'Kick (3).wav'],
  ['Kick (7).wav', ['Kick (7).wav', 'Kick (8).wav'], 'Kick (9).wav'],
  ['Take (1)', ['Take (1)'], 'Take (2)'],
  ['two.dots.wav', ['two.dots.wav'], 'two.dots (2).wav'],
])('%s beside %j is %s', (path, taken, expected) => expect(numberedPath(path, new Set(taken))).toBe(expected));
