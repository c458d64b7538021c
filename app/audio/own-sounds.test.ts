import { keepOwnSound, ownSound } from './own-sounds';

test('the oldest are forgotten when they are too many bytes; the newest stays, however large', () => {
  const megabytes = (count: number) => new Uint8Array(count * 2 ** 20);
  keepOwnSound('a', megabytes(30));
  keepOwnSound('b', megabytes(30));
  expect([ownSound('a')?.length, ownSound('b')?.length]).toEqual([30 * 2 ** 20, 30 * 2 ** 20]);
  keepOwnSound('c', megabytes(10));
  expect([ownSound('a'), ownSound('b')?.length, ownSound('c')?.length]).toEqual([undefined, 30 * 2 ** 20, 10 * 2 ** 20]);
  keepOwnSound('d', megabytes(70));
  expect([ownSound('b'), ownSound('c'), ownSound('d')?.length]).toEqual([undefined, undefined, 70 * 2 ** 20]);
  expect(ownSound('a hash')).toBeUndefined();
});
