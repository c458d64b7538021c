import { hiddenFamilies } from './hidden';

const heard = [
  { value: 'drums', probability: 0.95 },
  { value: 'bass', probability: 0.8 },
  { value: 'keys', probability: 0.5 },
] as const;

test('a drum loop with a bass in it says so', () => expect(hiddenFamilies(heard, 'drums').map(({ value }) => value)).toEqual(['bass']));
test('what is known for something that is not heard is in doubt, and not full of others', () =>
  expect(hiddenFamilies(heard, 'strings')).toEqual([]));
test('of a full mix, and of what nobody knows, nothing is said', () => {
  expect(hiddenFamilies(heard, 'mix')).toEqual([]);
  expect(hiddenFamilies(heard, null)).toEqual([]);
  expect(hiddenFamilies([], 'drums')).toEqual([]);
});
