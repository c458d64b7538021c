import { appliesTo, ruleInWords, ruleOf, type Answer } from './rules';

const answer = (changes: Partial<Answer>): Answer => ({ attribute: 'tempo', packId: 1, loopId: 1, guess: 60, answer: 120, ...changes });

test('three doublings in a pack are a rule, two are none, and one in between of another kind ends it', () => {
  const doubled = [answer({ guess: 60, answer: 120 }), answer({ guess: 62.5, answer: 125 }), answer({ guess: 48, answer: 96 })];
  expect(ruleOf(doubled)).toEqual({ rule: { kind: 'times', factor: 2 }, attribute: 'tempo', packId: 1 });
  expect(ruleOf(doubled.slice(1))).toBeNull();
  expect(ruleOf([...doubled.slice(1), answer({ guess: 100, answer: 100 }), doubled[0]])).toBeNull();
  expect(ruleOf([])).toBeNull();
});
test('answers of other packs and facts in between do not count', () => {
  const all = [
    answer({}),
    answer({ packId: 2, guess: 80, answer: 40 }),
    answer({ attribute: 'kind', guess: 'loop', answer: 'phrase' }),
    answer({ guess: 70, answer: 140 }),
    answer({ guess: 55, answer: 110 }),
  ];
  expect(ruleOf(all)?.rule).toEqual({ kind: 'times', factor: 2 });
});
test('one thing taken for another is a rule for those that are taken for it', () => {
  const { rule, attribute } = ruleOf(
    [1, 2, 3].map((loopId) => answer({ attribute: 'instrument', loopId, guess: 'bells', answer: 'cowbell' })),
  ) ?? { rule: null, attribute: 'tempo' as const };
  expect(rule).toEqual({ kind: 'becomes', from: 'bells', to: 'cowbell' });
  expect([appliesTo(rule as never, attribute, 'bells'), appliesTo(rule as never, attribute, 'shaker')]).toEqual([true, false]);
  expect(ruleInWords(rule as never, attribute)).toBe('made instrument Bells to Cowbell');
});
test('agreeing three times is a rule too', () => {
  const found = ruleOf([91, 92, 93].map((tempo) => answer({ guess: tempo, answer: tempo })));
  expect(found?.rule).toEqual({ kind: 'agree' });
  expect(ruleInWords({ kind: 'agree' }, 'key')).toBe('agreed with the key');
});
