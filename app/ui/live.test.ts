import type { LiveEvent } from '~contracts/live-event';
import { LiveClient } from './live';

class FakeSource {
  static readonly all: FakeSource[] = [];
  onopen: (() => void) | null = null;
  onmessage: ((message: { data: string }) => void) | null = null;
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
