import { RecentEvents } from './recent-events';

const told = (batchId: number) => ({ kind: 'import', batchId }) as const;
const since = (recent: RecentEvents, mark: string) => recent.since(mark)?.map(({ event }) => event) ?? null;

test('what came since a mark is told in order, and nothing twice', () => {
  const recent = new RecentEvents(),
    first = recent.mark(),
    second = recent.take(told(1));
  recent.take(told(2));
  expect(since(recent, first)).toEqual([told(1), told(2)]);
  expect(since(recent, second)).toEqual([told(2)]);
  expect(since(recent, recent.mark())).toEqual([]);
  // Who has heard a part of it goes on behind that part.
  const [half] = recent.since(first) ?? [];
  expect(since(recent, half.mark)).toEqual([told(2)]);
});
test('what holds in its moment only is not told late, and moves the mark on', () => {
  const recent = new RecentEvents(),
    mark = recent.mark();
  for (const command of ['toggle-play', 'next'] as const) recent.take({ kind: 'remote-command', personId: 1, command } as never);
  expect(recent.mark()).not.toBe(mark);
  expect(since(recent, mark)).toEqual([]);
});
test('a mark of another process, of before a gap, of too long ago, or made up is not known', () => {
  const recent = new RecentEvents(3),
    before = recent.mark();
  expect(new RecentEvents().since(before)).toBeNull();
  for (const made of [
    '',
    'undefined',
    ':',
    `${before}x`,
    before.replace(/:0$/, ':-1'),
    before.replace(/:0$/, ''),
    before.replace(/:0$/, ':1e1'),
  ])
    expect(recent.since(made)).toBeNull();
  recent.forget();
  expect(recent.since(before)).toBeNull();
  const marks = Array.from({ length: 20 }, (_, k) => recent.take(told(k))),
    known = marks.map((mark) => since(recent, mark));
  // Of what is known nothing is missing, and the last three are known at least.
  for (const [k, found] of known.entries()) if (found) expect(found).toEqual(marks.slice(k + 1).map((_, j) => told(k + 1 + j)));
  expect(known.slice(16).every((found) => found !== null)).toBe(true);
  expect(known[0]).toBeNull();
});
