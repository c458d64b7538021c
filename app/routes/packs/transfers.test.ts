import { leftInWords, Transfers, type Act } from './transfers';
import type { Picked, SendFile } from './upload';

const picked = (...sizes: number[]): Picked[] => sizes.map((size, k) => ({ path: `file ${k}`, file: { size, lastModified: 0 } as File }));
const settled = async () => {
  for (let turn = 0; turn < 30; turn++) await Promise.resolve();
};

/** A server that opens batches, and files that arrive when they are let. */
function setUp() {
  const asked: Record<string, string>[] = [],
    open = new Map<string, { arrive: () => void; break: () => void; sent: (bytes: number) => void; batchId: number }>();
  let batches = 0,
    nowMs = 0,
    done = 0;
  const act: Act = (fields) => {
      asked.push(fields);
      return Promise.resolve(fields.intent === 'open' ? { batchId: ++batches } : {});
    },
    send: SendFile = (batchId, { path }, signal, onSent) =>
      new Promise((arrive, fail) => {
        open.set(path, { arrive: () => arrive(), break: () => fail(new Error('broke off')), sent: onSent, batchId });
        signal.addEventListener('abort', () => fail(new DOMException('stopped', 'AbortError')));
      }),
    transfers = new Transfers(
      act,
      () => done++,
      send,
      () => nowMs,
    );
  return {
    transfers,
    open,
    asked,
    intents: () => asked.map(({ intent }) => intent),
    list: () => transfers.store.getState().list,
    pass: (ms: number) => (nowMs += ms),
    done: () => done,
  };
}

test('three files of one import are sent at once, and it starts when all are there', async () => {
  const { transfers, open, intents, list, done } = setUp();
  transfers.add({ packName: 'One' }, picked(10, 20, 30, 40));
  await settled();
  expect([...open.keys()]).toEqual(['file 0', 'file 1', 'file 2']);
  open.get('file 1')?.arrive();
  await settled();
  expect([...open.keys()]).toContain('file 3');
  expect(list()[0]).toMatchObject({ sentBytes: 20, filesSent: 1, totalBytes: 100, state: 'sending' });
  for (const each of open.values()) each.arrive();
  await settled();
  expect(intents()).toEqual(['open', 'start']);
  expect(list()).toEqual([]);
  expect(done()).toBe(1);
});
test('a second import waits for the first', async () => {
  const { transfers, open, list } = setUp();
  transfers.add({ packName: 'One' }, picked(10));
  transfers.add({ packName: 'Two' }, picked(10));
  await settled();
  expect(list().map(({ state }) => state)).toEqual(['sending', 'waiting']);
  open.get('file 0')?.arrive();
  await settled();
  expect(list().map(({ packName, state }) => [packName, state])).toEqual([['Two', 'sending']]);
  expect(open.get('file 0')?.batchId).toBe(2);
});
test('held or given up while it is being opened, nothing is sent, nothing is left on the server, and the next has its turn', async () => {
  const { transfers, open, asked, list } = setUp(),
    held = transfers.add({ packName: 'Held' }, picked(10));
  transfers.pause(held);
  await settled();
  expect([...open.keys()]).toEqual([]);
  expect(list()[0]).toMatchObject({ state: 'paused', batchId: 1 });
  const givenUp = transfers.add({ packName: 'Given up' }, picked(10));
  await transfers.cancel(givenUp);
  await settled();
  expect(asked.at(-1)).toEqual({ intent: 'drop', batchId: '2' });
  transfers.resume(held);
  await settled();
  expect(open.get('file 0')?.batchId).toBe(1);
});
test('held, it goes on with the same batch, and what is there is not sent again', async () => {
  const { transfers, open, intents, list } = setUp(),
    id = transfers.add({ packName: 'One' }, picked(10, 20));
  await settled();
  open.get('file 0')?.arrive();
  await settled();
  transfers.pause(id);
  await settled();
  expect(list()[0]).toMatchObject({ state: 'paused', filesSent: 1 });
  open.clear();
  transfers.resume(id);
  await settled();
  expect([...open.keys()]).toEqual(['file 1']);
  open.get('file 1')?.arrive();
  await settled();
  expect(intents()).toEqual(['open', 'start']);
});
test('one that breaks off says so, lets the next go on, and can be tried again', async () => {
  const { transfers, open, list } = setUp(),
    id = transfers.add({ packName: 'One' }, picked(10));
  transfers.add({ packName: 'Two' }, picked(10));
  await settled();
  open.get('file 0')?.break();
  await settled();
  expect(list().map(({ state, message }) => [state, message])).toEqual([
    ['failed', 'broke off'],
    ['sending', null],
  ]);
  transfers.resume(id);
  await settled();
  expect(list()[0].state).toBe('waiting');
});
test('ended, the server drops it; one from before goes on without opening a new one', async () => {
  const { transfers, open, asked, list } = setUp(),
    id = transfers.add({ packName: 'One' }, picked(10));
  await settled();
  await transfers.cancel(id);
  expect(asked.at(-1)).toEqual({ intent: 'drop', batchId: '1' });
  expect(list()).toEqual([]);
  open.clear();
  transfers.add({ packName: 'Before' }, picked(10, 20), 77, ['file 0']);
  await settled();
  expect([...open.entries()].map(([path, { batchId }]) => [path, batchId])).toEqual([['file 1', 77]]);
  expect(list()[0]).toMatchObject({ sentBytes: 10, filesSent: 1 });
});
test('the rate is that of the last seconds', async () => {
  const { transfers, open, list, pass } = setUp();
  transfers.add({ packName: 'One' }, picked(1_000_000));
  await settled();
  for (let second = 0; second <= 20; second++) {
    open.get('file 0')?.sent(second < 10 ? second * 1000 : 10_000 + (second - 10) * 50_000);
    pass(1000);
  }
  expect(list()[0].bytesPerSecond).toBeCloseTo(50_000, -2);
});
test('what is left is said in round words', () => {
  expect([null, Infinity, 3, 42, 60, 150, 7200].map(leftInWords)).toEqual([
    '',
    '',
    'a few seconds left',
    'about 50 seconds left',
    'about 1 minute left',
    'about 3 minutes left',
    'about 2.0 hours left',
  ]);
});
