import type { FitRequest } from '../../core/arrangement/fit-request';
import type { FitMessage, FitReply } from '../../workers/protocol';

/** A worker that answers when the test says so. */
class FakeWorker {
  static all: FakeWorker[] = [];
  onmessage: ((event: { data: FitReply }) => void) | null = null;
  onerror: ((event: { message: string }) => void) | null = null;
  readonly got: FitMessage[] = [];
  constructor() {
    FakeWorker.all.push(this);
  }
  postMessage(message: FitMessage): void {
    this.got.push(message);
  }
  answer(frames = 10): void {
    const { id } = this.got[this.got.length - 1];
    this.onmessage?.({ data: { id, ok: true, channels: [new Float32Array(frames), new Float32Array(frames)], loudnessLufs: -14 } });
  }
  fail(message: string): void {
    const { id } = this.got[this.got.length - 1];
    this.onmessage?.({ data: { id, ok: false, message } });
  }
}

class FakeBuffer {
  readonly length: number;
  constructor({ length }: { length: number }) {
    this.length = length;
  }
  copyToChannel(): void {}
}

jest.mock('./worker-url', () => ({ fitWorker: () => new FakeWorker() }));
Object.assign(globalThis, { AudioBuffer: FakeBuffer });
import { FitPool, fitPriority, workersFor } from './fit-pool';

const request = (name: string, targetFrames = 10): FitRequest => ({
  kind: 'cycle',
  soundSha: name,
  startFrame: 0,
  sourceFrames: 10,
  targetFrames,
  shiftSemitones: 0,
  stretchMode: 'tonal',
  onsetFrames: [],
  beats: 4,
  instrument: null,
});
const asked = () => FakeWorker.all.flatMap((worker) => worker.got.map((message) => message.request.soundSha));

let pool: FitPool;
beforeEach(() => {
  FakeWorker.all = [];
  pool = new FitPool(44100, 1);
});

test('a core is left to the page, and there is always a worker', () => {
  expect([1, 2, 3, 4, 16].map(workersFor)).toEqual([1, 1, 2, 2, 2]);
});

test('one at a time a worker, the most urgent first', () => {
  void pool.request(request('page'), fitPriority.neighbour);
  void pool.request(request('project'), fitPriority.project);
  void pool.request(request('next'), fitPriority.soundsNext);
  const [worker] = FakeWorker.all;
  worker.answer();
  worker.answer();
  expect(asked()).toEqual(['page', 'next', 'project']);
});

test('the same request twice is made once, and takes the more urgent place', async () => {
  void pool.request(request('first'), fitPriority.project);
  const a = pool.request(request('twice'), fitPriority.neighbour);
  void pool.request(request('other'), fitPriority.project);
  const b = pool.request(request('twice'), fitPriority.soundsNext);
  const [worker] = FakeWorker.all;
  worker.answer();
  expect(asked()).toEqual(['first', 'twice']);
  worker.answer();
  expect(await a).toBe(await b);
  expect(pool.peek(request('twice'))).toBe(await a);
  expect(pool.loudnessOf(request('twice'))).toBe(-14);
});

test('requests of an earlier place in the list are dropped, others stay', async () => {
  void pool.request(request('working'), fitPriority.neighbour);
  const gone = pool.request(request('gone'), fitPriority.neighbour),
    stays = request('stays');
  void pool.request(stays, fitPriority.neighbour);
  void pool.request(request('project'), fitPriority.project);
  const { fitKey } = await import('../../core/arrangement/fit-request');
  pool.drop(fitPriority.neighbour, new Set([fitKey(stays)]));
  await expect(gone).rejects.toThrow('no longer wanted');
  expect(pool.figures()).toMatchObject({ waiting: 2, working: 1 });
});

test('a failure is told to who asked, and the worker goes on', async () => {
  const bad = pool.request(request('bad'), fitPriority.project),
    good = pool.request(request('good'), fitPriority.project);
  const [worker] = FakeWorker.all;
  worker.fail('The sound could not be loaded.');
  await expect(bad).rejects.toThrow('could not be loaded');
  worker.answer();
  expect((await good).length).toBe(10);
  expect(pool.peek(request('bad'))).toBeNull();
});

test('memory is bounded: the buffers heard longest ago go first', async () => {
  const frames = 20 * 2 ** 20; // 160 MB a buffer, so that two fit
  const [worker] = FakeWorker.all;
  for (const name of ['a', 'b']) {
    const made = pool.request(request(name), fitPriority.project);
    worker.answer(frames);
    await made;
  }
  expect(pool.peek(request('a'))).not.toBeNull(); // heard again: now b is the older one
  const made = pool.request(request('c'), fitPriority.project);
  worker.answer(frames);
  await made;
  expect(pool.peek(request('b'))).toBeNull();
  expect(pool.peek(request('a'))).not.toBeNull();
  expect(pool.figures().bytes).toBeLessThanOrEqual(384 * 2 ** 20);
});
