import { nothingCleaned } from '~core/workbench/clean';
import type { BenchMessage, BenchReply } from '~workers/bench-protocol';
import { Bench, withHandle } from './bench';

/** A worker that answers when it is told to. */
class FakeWorker {
  readonly asked: BenchMessage[] = [];
  isEnded = false;
  onmessage: ((event: { data: BenchReply }) => void) | null = null;
  onerror: (() => void) | null = null;
  postMessage(message: BenchMessage): void {
    this.asked.push(message);
  }
  terminate(): void {
    this.isEnded = true;
  }
  answer(id = this.asked.at(-1)?.id ?? 0): void {
    const setting = this.asked[0].setting;
    this.onmessage?.({
      data: {
        id,
        ok: true,
        shown: { ...setting, channels: [new Float32Array(44_100)], picture: { columns: 0, rows: 0, bytes: new Uint8Array() }, line: null },
        made: {
          ...setting,
          wav: new Uint8Array(),
          frames: 44_100 + id,
          loudnessLufs: null,
          peakDbfs: null,
          overview: new Uint8Array(),
          tookMs: 1,
        },
      },
    });
  }
}

const kept = new Map<string, string>();
Object.defineProperty(globalThis, 'sessionStorage', {
  value: { getItem: (name: string) => kept.get(name) ?? null, setItem: (name: string, text: string) => kept.set(name, text) },
});

const setting = { tempoBpm: 120, beats: 2, barBeats: 4, key: null, startFrame: 0, onsetFrames: [], isCycle: true };

function open(memory = `bench ${Math.random()}`) {
  const worker = new FakeWorker(),
    bench = new Bench('/media/sound/a', setting, memory, () => worker as unknown as Worker);
  bench.open();
  worker.answer();
  return { bench, worker, kinds: () => bench.store.getState().steps.map(({ kind }) => kind) };
}

test('steps are added, changed, moved, taken out; each can be taken back and done again', () => {
  const { bench, kinds } = open();
  bench.add('clean');
  bench.add('retune');
  expect(kinds()).toEqual(['clean', 'retune']);
  expect(bench.store.getState().chosen).toBe(1);
  bench.move(1, -1);
  expect(kinds()).toEqual(['retune', 'clean']);
  bench.setStep(1, { ...nothingCleaned, lowCutHz: 80 });
  bench.remove(0);
  expect(kinds()).toEqual(['clean']);
  bench.undo();
  bench.undo();
  expect(bench.store.getState().steps[1]).toEqual(nothingCleaned);
  bench.redo();
  expect(bench.store.getState().steps[1]).toMatchObject({ lowCutHz: 80 });
  bench.undo();
  bench.undo();
  bench.undo();
  bench.undo();
  expect(kinds()).toEqual([]);
  expect(bench.store.getState().canUndo).toBe(false);
  bench.undo();
  expect(kinds()).toEqual([]);
});
test('a drag is one step', () => {
  const { bench } = open();
  bench.add('part');
  const [step] = bench.store.getState().steps;
  if (step.kind !== 'part') throw new Error('no part');
  bench.setStep(0, { ...step, fromFrame: 10 }, false);
  for (const fromFrame of [20, 30, 40]) bench.setStep(0, { ...step, fromFrame }, true);
  bench.undo();
  expect(bench.store.getState().steps).toEqual([step]);
});
test('what is worked at is shown as it is before that step; the line is asked for where it is drawn', () => {
  const { bench, worker } = open();
  bench.add('clean');
  bench.add('line');
  expect(worker.asked.at(-1)).toMatchObject({ shownSteps: 1, withLine: true });
  bench.choose(null);
  expect(worker.asked.at(-1)).toMatchObject({ shownSteps: 2, withLine: false });
});
test('an answer to an older question is no answer; what went wrong is said', () => {
  const { bench, worker } = open();
  bench.add('clean');
  const older = worker.asked.at(-1)?.id;
  bench.choose(null);
  worker.answer(older);
  expect(bench.store.getState().isBusy).toBe(true);
  worker.onmessage?.({ data: { id: worker.asked.at(-1)?.id ?? 0, ok: false, message: 'The part is too short.' } });
  expect(bench.store.getState()).toMatchObject({ isBusy: false, trouble: 'The part is too short.' });
});
test('what was on the bench is there again when the page is loaded anew; the worker ends with the page', () => {
  const { bench, worker } = open('bench kept');
  bench.add('layers');
  bench.close();
  expect(worker.isEnded).toBe(true);
  expect(open('bench kept').kinds()).toEqual(['layers']);
  sessionStorage.setItem('bench broken', '{');
  expect(open('bench broken').kinds()).toEqual([]);
});

test('a handle of a part at a known tempo: whole beats follow, or none; where bars were said, they stay', () => {
  const step = { kind: 'part' as const, fromFrame: 0, toFrame: 16 * 22_050, beats: 16, wrapsTail: false };
  expect(withHandle(step, 120, { toFrame: 8 * 22_050 }).beats).toBe(8);
  expect(withHandle(step, 120, { toFrame: 7.5 * 22_050 }).beats).toBeNull();
  expect(withHandle({ ...step, beats: null, toFrame: 7.5 * 22_050 }, 120, { toFrame: 4 * 22_050 }).beats).toBe(4);
  expect(withHandle({ ...step, beats: 8 }, 120, { toFrame: 15 * 22_050 }).beats).toBe(8);
  expect(withHandle({ ...step, beats: 8 }, null, { toFrame: 15 * 22_050 }).beats).toBe(8);
});
