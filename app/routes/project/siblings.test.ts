import type { WholeLoop } from '~contracts/whole-loop';
import { fetchOthers, othersAddress } from './siblings';

const row = { id: 7, setId: 3, stars: null, source: { instrument: 'bass guitar' } } as unknown as WholeLoop;

test('others of a set, like it, or of its instrument by fit, told by the tempo and key of the project', () => {
  const query = (from: 'set' | 'like' | 'fit') => new URL(othersAddress(row, from, 12) as string, 'http://here.test').searchParams;
  expect(Object.fromEntries(query('set'))).toMatchObject({ set: '3', sort: 'title', in: '12' });
  expect(Object.fromEntries(query('like'))).toMatchObject({ near: 'like:7:1-1-1', in: '12' });
  expect(Object.fromEntries(query('fit'))).toMatchObject({ instrument: 'bass guitar', sort: 'fit', in: '12' });
});
test('what is said of the loop meanwhile asks for nothing new; of another set, others are asked for', () => {
  const starred = { ...row, stars: 4, source: { ...row.source } } as unknown as WholeLoop,
    moved = { ...row, setId: 4 } as unknown as WholeLoop;
  for (const from of ['set', 'like', 'fit'] as const) expect(othersAddress(starred, from, 12)).toBe(othersAddress(row, from, 12));
  expect(othersAddress(moved, 'set', 12)).not.toBe(othersAddress(row, 'set', 12));
});
test('without a set there are none of it, and nobody is asked; the loop itself is none of the others', async () => {
  const asked = jest.spyOn(globalThis, 'fetch').mockResolvedValue(Response.json({ rows: [{ id: 7 }, { id: 8 }] }));
  const alone = { ...row, setId: null } as unknown as WholeLoop;
  expect(await fetchOthers(othersAddress(alone, 'set', 12), 7)).toEqual([]);
  expect(asked).not.toHaveBeenCalled();
  expect(await fetchOthers(othersAddress(row, 'set', 12), 7)).toEqual([{ id: 8 }]);
  asked.mockRejectedValue(new Error('no network'));
  expect(await fetchOthers(othersAddress(row, 'set', 12), 7)).toEqual([]);
  asked.mockRestore();
});
