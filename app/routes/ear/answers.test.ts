import { answersOf, whyNotTheLikeliest } from './answers';

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

test('a guess that a rival is likelier than says why, all others do not', () => {
  const reasons = ['sounds like brass', 'likeliest family: brass, 45 %'],
    why = (confidence: number) => whyNotTheLikeliest({ confidence, rivals: [{ value: 'synth-lead', probability: 0.25 }], reasons });
  expect(why(0.22)).toBe('likeliest family: brass, 45 %');
  expect(why(0.3)).toBeNull();
  expect(whyNotTheLikeliest({ confidence: 0.1, rivals: [], reasons })).toBeNull();
});
