import type { LiveEvent } from '~contracts/live-event';
import { LiveClient } from './live';

class FakeSource {
  static readonly all: FakeSource[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  readyState = 1;
  isClosed = false;
  constructor() {
    FakeSource.all.push(this);
  }
  close(): void {
    this.isClosed = true;
  }
}
let client: LiveClient;
beforeEach(() => {
  FakeSource.all.length = 0;
  client = new LiveClient(() => new FakeSource() as unknown as EventSource);
});

test('all who listen share one stream, which is closed with the last of them and opened anew for the next', () => {
  const ends = [client.listen(() => {}), client.listen(() => {}), client.whenOpen(() => {})];
  expect(FakeSource.all).toHaveLength(1);
  ends[0]();
  ends[1]();
  expect(FakeSource.all[0].isClosed).toBe(false);
  ends[2]();
  expect(FakeSource.all[0].isClosed).toBe(true);
  client.listen(() => {});
  expect(FakeSource.all).toHaveLength(2);
});
test('what comes is told to everybody, and what cannot be read to nobody', () => {
  const heard: LiveEvent[] = [];
  client.listen((event) => heard.push(event));
  client.listen((event) => heard.push(event));
  FakeSource.all[0].onmessage?.({ data: '{"kind":"import","batchId":3}' });
  FakeSource.all[0].onmessage?.({ data: 'nonsense' });
  expect(heard).toEqual([
    { kind: 'import', batchId: 3 },
    { kind: 'import', batchId: 3 },
  ]);
});
test('a stream that stands again after a break says so', () => {
  const opened: boolean[] = [];
  client.whenOpen((again) => opened.push(again));
  FakeSource.all[0].onopen?.();
  FakeSource.all[0].onopen?.();
  expect(opened).toEqual([false, true]);
});
test('who stops listening while being told is no trouble for the others', () => {
  const heard: string[] = [],
    stop = client.listen(() => {
      heard.push('first');
      stop();
    });
  client.listen(() => heard.push('second'));
  for (let k = 0; k < 2; k++) FakeSource.all[0].onmessage?.({ data: '{"kind":"export","exportId":1}' });
  expect(heard).toEqual(['first', 'second', 'second']);
});

describe('a stream that is answered with an error', () => {
  beforeEach(() => void jest.useFakeTimers());
  afterEach(() => void jest.useRealTimers());
  const fail = (source: FakeSource, readyState = 2) => {
    source.readyState = readyState;
    source.onerror?.();
  };

  test('is opened anew, after longer and longer times, and says that it stands again', () => {
    const opened: boolean[] = [];
    client.whenOpen((again) => opened.push(again));
    FakeSource.all[0].onopen?.();
    for (const [k, waitMs] of [2000, 4000, 8000].entries()) {
      fail(FakeSource.all[k]);
      jest.advanceTimersByTime(waitMs - 1);
      expect(FakeSource.all).toHaveLength(k + 1);
      // Who begins to listen meanwhile opens none beside it.
      client.listen(() => {});
      jest.advanceTimersByTime(1);
      expect(FakeSource.all).toHaveLength(k + 2);
    }
    FakeSource.all[3].onopen?.();
    expect(opened).toEqual([false, true]);
    fail(FakeSource.all[3]);
    jest.advanceTimersByTime(2000);
    expect(FakeSource.all).toHaveLength(5);
  });
  test('is left to the browser where that tries by itself, and is not opened where nobody listens any more', () => {
    const end = client.listen(() => {});
    fail(FakeSource.all[0], 0);
    jest.advanceTimersByTime(100_000);
    expect(FakeSource.all).toHaveLength(1);
    fail(FakeSource.all[0]);
    end();
    jest.advanceTimersByTime(100_000);
    expect(FakeSource.all).toHaveLength(1);
    client.listen(() => {});
    expect(FakeSource.all).toHaveLength(2);
  });
});
