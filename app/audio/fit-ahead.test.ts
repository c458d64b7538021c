import type { FitRequest } from '~core/arrangement/fit-request';
import type { Schedule } from '~core/arrangement/schedule';
import { FitAhead } from './fit-ahead';
import type { FitPool } from './fit-pool';
import { createEngineStore } from './store';

const request = (soundSha: string) => ({ soundSha, kind: 'cycle' }) as FitRequest;

function desk(ready: readonly string[] = []) {
  const waiting = new Map<string, { done: () => void; fail: (error: Error) => void }>(),
    drops: [number, number][] = [],
    pool = {
      peek: ({ soundSha }: FitRequest) => (ready.includes(soundSha) ? {} : null),
      drop: (priority: number, kept: ReadonlySet<string>) => drops.push([priority, kept.size]),
      request: ({ soundSha }: FitRequest) =>
        new Promise<void>((done, fail) => {
          waiting.set(soundSha, { done, fail });
        }),
    },
    store = createEngineStore();
  return { ahead: new FitAhead(pool as unknown as FitPool, store), store, waiting, drops };
}
const scheduleOf = (...names: string[]) => ({ requests: new Map(names.map((name) => [name, request(name)])) }) as unknown as Schedule;
const settle = () => new Promise((resolve) => setTimeout(resolve, 0));

test('what the project still waits for is counted down; what is ready is not asked for', async () => {
  const { ahead, store, waiting } = desk(['b']);
  ahead.project(scheduleOf('a', 'b', 'c'));
  expect([...waiting.keys()]).toEqual(['a', 'c']);
  expect(store.getState().fittingCount).toBe(2);
  waiting.get('a')?.done();
  await settle();
  expect(store.getState().fittingCount).toBe(1);
  waiting.get('c')?.fail(new Error('The sound could not be loaded.'));
  await settle();
  expect(store.getState()).toMatchObject({ fittingCount: 0, trouble: 'The sound could not be loaded.' });
});

test('what an earlier state of the project still waited for is not counted', async () => {
  const { ahead, store, waiting } = desk();
  ahead.project(scheduleOf('a'));
  ahead.project(scheduleOf('b', 'c'));
  waiting.get('a')?.fail(new Error('no longer wanted'));
  await settle();
  expect(store.getState().fittingCount).toBe(2);
});

test('a request that is no longer wanted is no trouble', async () => {
  const { ahead, store, waiting } = desk();
  ahead.project(scheduleOf('a'));
  waiting.get('a')?.fail(new Error('no longer wanted'));
  await settle();
  expect(store.getState().trouble).toBeNull();
});

test('which sounds cannot be had is known, until they can or are played no more', async () => {
  const { ahead, store, waiting } = desk(),
    silent = () => [...store.getState().silentSounds];
  ahead.project(scheduleOf('a', 'b'));
  waiting.get('a')?.fail(new Error('The sound could not be loaded.'));
  waiting.get('b')?.fail(new Error('The sound could not be loaded.'));
  await settle();
  expect(silent()).toEqual(['a', 'b']);
  ahead.project(scheduleOf('b', 'c'));
  expect(silent()).toEqual(['b']);
  waiting.get('b')?.done();
  await settle();
  expect(silent()).toEqual([]);
});

test('new neighbours and a new shortlist replace the requests of their own kind only', () => {
  const { ahead, drops } = desk();
  ahead.neighbours([request('a'), request('b')]);
  ahead.shortlist([request('c')]);
  expect(drops).toEqual([
    [2, 2],
    [3, 1],
  ]);
});
