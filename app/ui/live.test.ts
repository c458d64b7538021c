import type { LiveEvent } from '~contracts/live-event';
import { LiveClient } from './live';

class FakeSource {
  static readonly all: FakeSource[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string; lastEventId: string }) => void) | null = null;
  onerror: (() => void) | null = null;
  readyState = 1;
  isClosed = false;
  constructor(readonly since: string) {
    FakeSource.all.push(this);
  }
  close(): void {
    this.isClosed = true;
  }
}
let client: LiveClient;
beforeEach(() => {
  FakeSource.all.length = 0;
  client = new LiveClient(
    (since) => new FakeSource(since) as unknown as EventSource,
    () => 'page:7',
  );
});
const say = (source: FakeSource, data: string, lastEventId = '') => source.onmessage?.({ data, lastEventId });

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
  say(FakeSource.all[0], '{"kind":"import","batchId":3}');
  say(FakeSource.all[0], 'nonsense');
  expect(heard).toEqual([
    { kind: 'import', batchId: 3 },
    { kind: 'import', batchId: 3 },
  ]);
});
test('whenever the stream stands it is told', () => {
  let opened = 0;
  client.whenOpen(() => opened++);
  FakeSource.all[0].onopen?.();
  FakeSource.all[0].onopen?.();
  expect(opened).toBe(2);
});
test('a stream begins at the mark of the page, and one that is opened anew behind what was heard last', () => {
  const end = client.listen(() => {});
  expect(FakeSource.all[0].since).toBe('page:7');
  end();
  const again = client.listen(() => {});
  expect(FakeSource.all[1].since).toBe('page:7');
  say(FakeSource.all[1], '{"kind":"projects"}', 'page:9');
  again();
  client.listen(() => {});
  expect(FakeSource.all[2].since).toBe('page:9');
});
test('what comes while the next page is on its way is told again when it is there, but not what held in its moment', () => {
  const [before, next]: [string[], string[]] = [[], []],
    end = client.listen(({ kind }) => before.push(kind));
  say(FakeSource.all[0], '{"kind":"projects"}');
  client.startTurn();
  say(FakeSource.all[0], '{"kind":"import","batchId":3}');
  say(FakeSource.all[0], '{"kind":"remote-command","personId":1,"command":{}}');
  // Sent on from there to another.
  client.startTurn();
  say(FakeSource.all[0], '{"kind":"instruments"}');
  client.listen(({ kind }) => next.push(kind));
  end();
  client.endTurn();
  expect(next).toEqual(['import', 'instruments']);
  expect(before).toEqual(['projects', 'import', 'remote-command', 'instruments']);
  client.endTurn();
  say(FakeSource.all[0], '{"kind":"projects"}');
  client.endTurn();
  expect(next).toEqual(['import', 'instruments', 'projects']);
});
test('who stops listening while being told is no trouble for the others', () => {
  const heard: string[] = [],
    stop = client.listen(() => {
      heard.push('first');
      stop();
    });
  client.listen(() => heard.push('second'));
  for (let k = 0; k < 2; k++) say(FakeSource.all[0], '{"kind":"export","exportId":1}');
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
    let opened = 0;
    client.whenOpen(() => opened++);
    FakeSource.all[0].onopen?.();
    say(FakeSource.all[0], '{"kind":"projects"}', 'page:8');
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
    expect(opened).toBe(2);
    expect(FakeSource.all[3].since).toBe('page:8');
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
