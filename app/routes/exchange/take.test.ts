import type { OutsideLine } from '~contracts/outside';
import { byPack } from './take';

const loop = (id: string, packId: string) => ({ id, packId }) as OutsideLine;

test('loops are taken pack by pack, in their order, none twice and none lost', () => {
  const loops = [loop('a', 'one'), loop('b', 'two'), loop('c', 'one')];
  expect([...byPack(loops)].map(([packId, some]) => [packId, some.map(({ id }) => id)])).toEqual([
    ['one', ['a', 'c']],
    ['two', ['b']],
  ]);
  expect(byPack([]).size).toBe(0);
});
