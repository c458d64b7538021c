import { pathOfOurs } from './session.server';

test.each([
  ['/packs?show=1', '/packs?show=1'],
  ['/', '/'],
  [null, '/'],
  ['', '/'],
  ['//evil.example', '/'],
  ['/\\evil.example', '/'],
  ['/\t/evil.example', '/'],
  ['https://evil.example/', '/'],
  ['javascript:alert(1)', '/'],
  ['packs', '/'],
])('asked to go to %p, one goes to %p', (to, expected) => expect(pathOfOurs(to)).toBe(expected));
