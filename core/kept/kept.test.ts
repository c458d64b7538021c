import { keptByKey, keptOnce } from '../kept/kept';

test('each key is made once, and what was made comes back, even nothing', () => {
  const made: number[] = [],
    half = keptByKey((key: number) => {
      made.push(key);
      return key > 2 ? { half: key / 2 } : undefined;
    });
  expect(half(4)).toEqual({ half: 2 });
  expect(half(4)).toBe(half(4));
  expect(half(1)).toBeUndefined();
  half(1);
  expect(made).toEqual([4, 1]);
});

test('what could not be made is tried again', () => {
  let tries = 0;
  const kept = keptByKey((key: string) => {
    if (++tries === 1) throw new Error('not yet');
    return key;
  });
  expect(() => kept('a')).toThrow('not yet');
  expect(kept('a')).toBe('a');
});

test('what is wanted once is made when it is first asked for, not before', () => {
  let made = 0;
  const number = keptOnce(() => ++made);
  expect(made).toBe(0);
  expect([number(), number()]).toEqual([1, 1]);
});
