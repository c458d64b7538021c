import { answersOf } from './answers';

test('the guess comes first, then its rivals, no more than four', () => {
  const rivals = ['b', 'c', 'd', 'e'].map((value, k) => ({ value, probability: 0.2 - k / 20 }));
  expect(answersOf({ attribute: 'instrument', value: 'a', confidence: 0.4, rivals }).map(({ value }) => value)).toEqual([
    'a',
    'b',
    'c',
    'd',
  ]);
});

test('a tempo always offers its half and its double, each once', () => {
  const values = (rivals: { value: number; probability: number }[]) =>
    answersOf({ attribute: 'tempo', value: 120, confidence: 0.6, rivals }).map(({ value }) => value);
  expect(values([{ value: 90, probability: 0.2 }])).toEqual([120, 90, 60, 240]);
  expect(values([{ value: 60, probability: 0.3 }])).toEqual([120, 60, 240]);
});
