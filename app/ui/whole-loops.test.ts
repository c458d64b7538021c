import type { LoopCard } from '~contracts/loop-card';
import type { WholeLoop } from '~contracts/whole-loop';
import type { LiveEvent } from '~contracts/live-event';
import { WholeLoops } from './whole-loops';

const card = (id: number) => ({ id, source: { loopId: id } }) as LoopCard,
  row = (id: number) => ({ id, source: { loopId: id, onsetFrames: [id] } }) as unknown as WholeLoop;
let asked: (readonly number[])[], tell: (event: LiveEvent) => void, fails: boolean, whole: WholeLoops;
beforeEach(() => {
  asked = [];
  fails = false;
  whole = new WholeLoops(
    async (ids) => {
      asked.push(ids);
      if (fails) throw new Error('the line is dead');
      return ids.filter((id) => id < 100).map(row);
    },
    { listen: (listener) => ((tell = listener), () => {}) },
  );
});

test('several that are asked for at once are fetched at once, and each only once', async () => {
  expect((await whole.many([card(1), card(2), card(3)])).map(({ id }) => id)).toEqual([1, 2, 3]);
  expect((await whole.of(card(2)))?.source.onsetFrames).toEqual([2]);
  expect(asked).toEqual([[1, 2, 3]]);
});
test('what is whole already is given back as it is', async () => {
  const given = row(7);
  expect(await whole.of(given)).toBe(given);
  expect(asked).toEqual([]);
});
test('what has changed is fetched anew, the rest is not; when all may have changed, all is', async () => {
  await whole.many([card(1), card(2)]);
  tell({ kind: 'library', loopIds: [1] });
  await whole.many([card(1), card(2)]);
  expect(asked).toEqual([[1, 2], [1]]);
  tell({ kind: 'library', loopIds: null });
  await whole.many([card(1), card(2)]);
  expect(asked.at(-1)).toEqual([1, 2]);
});
test('what is not there is null, what could not be fetched is asked for again', async () => {
  expect(await whole.of(card(100))).toBeNull();
  fails = true;
  expect(await whole.of(card(1))).toBeNull();
  fails = false;
  expect((await whole.of(card(1)))?.id).toBe(1);
});
