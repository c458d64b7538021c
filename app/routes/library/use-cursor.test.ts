import fc from 'fast-check';
import { cursorOver, noCursor, type Cursor } from './use-cursor';

/** The cursor over a list of loops, of which those at `missing` are on their way. */
const over = (cursor: Cursor, ids: readonly number[], missing: readonly number[] = []): Cursor =>
  cursorOver(
    cursor,
    ids.length,
    (index) => (missing.includes(index) ? null : (ids[index] ?? null)),
    (id) => ids.findIndex((each, index) => each === id && !missing.includes(index)),
  );

test('it stays with its loop when rows come in above it or go', () => {
  expect(over({ index: 1, id: 20 }, [10, 20, 30])).toEqual({ index: 1, id: 20 });
  expect(over({ index: 1, id: 20 }, [5, 6, 10, 20, 30])).toEqual({ index: 3, id: 20 });
  expect(over({ index: 1, id: 20 }, [20, 30])).toEqual({ index: 0, id: 20 });
  expect(over({ index: 2, id: 30 }, [30])).toEqual({ index: 0, id: 30 });
});
test('where its loop is not there any more, no other one is taken for it', () => {
  expect(over({ index: 1, id: 20 }, [10, 30])).toEqual(noCursor);
  expect(over({ index: 2, id: 30 }, [10, 20])).toEqual(noCursor);
  expect(over({ index: 0, id: 10 }, [])).toEqual(noCursor);
});
test('a row that is on its way becomes its loop when it comes; one that is asked for anew is waited for', () => {
  expect(over({ index: 2, id: null }, [10, 20, 30], [2])).toEqual({ index: 2, id: null });
  expect(over({ index: 2, id: null }, [10, 20, 30])).toEqual({ index: 2, id: 30 });
  expect(over({ index: 2, id: 30 }, [10, 20, 30], [2])).toEqual({ index: 2, id: 30 });
  expect(over(noCursor, [10, 20])).toBe(noCursor);
});
test('over any two lists it is at its loop or nowhere, and at rest after one step', () => {
  const list = fc.uniqueArray(fc.integer({ min: 1, max: 12 }), { minLength: 1 });
  fc.assert(
    fc.property(list, list, fc.nat(), (ids, later, k) => {
      const index = k % ids.length,
        now = over({ index, id: ids[index] }, later);
      expect(later[now.index]).toBe(later.includes(ids[index]) ? ids[index] : undefined);
      expect(over(now, later)).toBe(now);
    }),
  );
});
