import { oneAfterAnother } from './one-after-another';

/** An asking that is answered when the test says so. */
function asking() {
  const answers: (() => void)[] = [],
    fails: (() => void)[] = [];
  return {
    answers,
    fails,
    ask: () =>
      new Promise<void>((answer, fail) => {
        answers.push(answer);
        fails.push(() => fail(new Error('gone')));
      }),
  };
}
const settled = () => new Promise((next) => setImmediate(next));

test('what comes while an answer is awaited is one more asking behind it, however much it is', async () => {
  const { answers, ask } = asking(),
    renew = oneAfterAnother(ask);
  void renew();
  for (let k = 0; k < 20; k++) void renew();
  expect(answers).toHaveLength(1);
  answers[0]();
  await settled();
  expect(answers).toHaveLength(2);
  answers[1]();
  await settled();
  expect(answers).toHaveLength(2);
});

test('the last news is asked behind: what was asked before it may not hold it', async () => {
  const { answers, ask } = asking(),
    renew = oneAfterAnother(ask);
  void renew();
  answers[0]();
  await settled();
  void renew();
  expect(answers).toHaveLength(2);
});

test('an asking that fails ends neither the next nor itself in silence', async () => {
  const { answers, fails, ask } = asking(),
    renew = oneAfterAnother(ask),
    first = renew();
  fails[0]();
  await expect(first).rejects.toThrow('gone');
  void renew();
  expect(answers).toHaveLength(2);
});
