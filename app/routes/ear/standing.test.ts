import fc from 'fast-check';
import { nowhere, standIn, type Standing } from './standing';

const before: Standing = { list: 'all', name: 'c', names: ['a', 'b', 'c', 'd', 'e'] };

test('one stays where one stands, whatever comes or goes above', () => {
  expect(standIn('all', ['a', 'b', 'c', 'd', 'e'], before)).toBe(2);
  expect(standIn('all', ['new', 'newer', 'a', 'b', 'c', 'd'], before)).toBe(4);
  expect(standIn('all', ['c', 'e'], before)).toBe(0);
});
test('where it is gone the next moves up, though others went with it; behind the last, the one before', () => {
  expect(standIn('all', ['a', 'b', 'd', 'e'], before)).toBe(2);
  expect(standIn('all', ['new', 'a', 'b', 'e'], before)).toBe(3);
  expect(standIn('all', ['a', 'b', 'new'], before)).toBe(1);
  expect(standIn('all', ['new', 'newer'], before)).toBe(0);
  expect(standIn('all', [], before)).toBe(-1);
});
test('in another list, and in the first, one begins at the start', () => {
  expect(standIn('tempo', ['a', 'c'], before)).toBe(0);
  expect(standIn('all', ['a', 'c'], nowhere)).toBe(0);
  expect(standIn('all', [], nowhere)).toBe(-1);
});
test('any list, and any that follows it: the name stays while it is there', () => {
  const list = fc.uniqueArray(fc.constantFrom(...'abcdefghij'), { minLength: 1 });
  fc.assert(
    fc.property(list, list, fc.nat(), (names, later, k) => {
      const name = names[k % names.length],
        at = standIn('all', later, { list: 'all', name, names });
      expect(at).toBeGreaterThanOrEqual(0);
      if (later.includes(name)) expect(later[at]).toBe(name);
    }),
  );
});
