import { transportAt } from '../../test/audio/transport';
import type { FitRequest, LoopSource } from '~core/arrangement/fit-request';
import { emptyProject } from '~core/arrangement/tree';
import { dbToRatio } from '~core/units/level';
import type { WholeLoop } from '~contracts/whole-loop';
import { Audition, type AuditionDevice } from './audition';
import { createEngineStore } from './store';
import type { Transport } from './transport';

const transport = transportAt(),
  barFrames = 88200;

const loop = (id: number, changes: Partial<LoopSource> = {}): WholeLoop =>
  ({
    id,
    source: {
      loopId: id,
      kind: 'loop',
      media: 'audio',
      soundSha: `loop ${id}`,
      soundFrames: 2 * barFrames,
      tempoBpm: 120,
      beats: 8,
      key: null,
      pitched: false,
      family: 'drums',
      instrument: 'kit',
      loudnessLufs: -18,
      startFrame: 0,
      onsetFrames: [],
      ...changes,
    },
  }) as unknown as WholeLoop;

interface Started {
  readonly id: string;
  readonly startExact: number;
  readonly offsetFrames: number;
  readonly levelRatio: number;
}

/** An audition before a stage whose clock and pool the test moves by hand. */
function stageAt(plays: Transport | null) {
  const store = createEngineStore(),
    waiting: { request: FitRequest; done: (length?: number) => void; fail: (error: Error) => void }[] = [],
    started: Started[] = [],
    ended: number[] = [],
    here = { now: 0, transport: plays, origin: null as number | null, level: 1 };
  const device = {
    graph: {
      context: { currentTime: 0 },
      candidate: { gain: { setTargetAtTime: () => {}, setValueAtTime: () => {} } },
      applyPreview: () => {},
    },
    pool: {
      request: (request: FitRequest) =>
        new Promise((resolve, reject) => waiting.push({ request, done: (length = 100) => resolve({ length }), fail: reject })),
      peek: () => null,
      loudnessOf: () => null,
    },
    candidate: {
      get originFrame() {
        return here.origin;
      },
      start: (what: Started) => started.push(what),
      end: (frame: number) => ended.push(frame),
      setLevel: (level: number) => (here.level = level),
      scheduleAhead: () => {},
      phase: () => null,
    },
    ear: { stopClicks: () => {} },
    ahead: { shortlist: () => {}, neighbours: () => {} },
  } as unknown as AuditionDevice;
  const audition = new Audition({
    store,
    device: () => device,
    transport: () => here.transport,
    project: () => emptyProject('here', 120, null),
    setting: () => emptyProject('here', 120, null),
    now: () => here.now,
    open: async () => {},
    play: async () => {},
    applyTracks: () => {},
    scheduleAhead: () => {},
  });
  return { audition, store, waiting, started, ended, here };
}
const settled = () => new Promise((resolve) => setTimeout(resolve, 0));

test('while the project plays it is fitted first, then comes in on the next bar', async () => {
  const { audition, store, waiting, started, here } = stageAt(transport);
  here.now = barFrames + 1000;
  void audition.start(loop(1));
  await settled();
  expect(store.getState().candidate).toMatchObject({ phase: 'fitting', alone: false });
  expect(started).toEqual([]);
  waiting[0].done();
  await settled();
  expect(started).toMatchObject([{ startExact: 2 * barFrames, offsetFrames: 0 }]);
  expect(store.getState().candidate).toMatchObject({ phase: 'waiting', message: null });
  here.origin = 2 * barFrames;
  audition.scheduleAhead(2 * barFrames - 1, 3 * barFrames);
  expect(store.getState().candidate?.phase).toBe('waiting');
  audition.scheduleAhead(2 * barFrames, 3 * barFrames);
  expect(store.getState().candidate?.phase).toBe('sounding');
});

test('one that was not ready for its line comes in on the next one and says so', async () => {
  const { audition, store, waiting, started, here } = stageAt(transport);
  here.now = 2 * barFrames - 4000;
  void audition.start(loop(1));
  await settled();
  here.now = 2 * barFrames + 10;
  waiting[0].done();
  await settled();
  expect(started).toMatchObject([{ startExact: 3 * barFrames }]);
  expect(store.getState().candidate?.message).toMatch(/not ready/);
});

test('of two requests only the later one ever starts, whichever is ready first', async () => {
  const { audition, waiting, started, store } = stageAt(transport);
  void audition.start(loop(1));
  await settled();
  void audition.start(loop(2));
  await settled();
  waiting[1].done();
  await settled();
  waiting[0].done();
  await settled();
  expect(started).toHaveLength(1);
  expect(store.getState().candidate?.row.id).toBe(2);
});

test('stopped while it is being fitted, it never starts', async () => {
  const { audition, waiting, started, store, ended } = stageAt(transport);
  void audition.start(loop(1));
  await settled();
  audition.stop();
  waiting[0].done();
  await settled();
  expect(started).toEqual([]);
  expect(ended).toHaveLength(1);
  expect(store.getState().candidate).toBeNull();
});

test('without a running project it is heard at once, alone, as recorded', async () => {
  const { audition, waiting, started, store } = stageAt(null);
  void audition.start(loop(1, { tempoBpm: 97 }));
  await settled();
  expect(waiting[0].request).toMatchObject({ sourceFrames: waiting[0].request.targetFrames, shiftSemitones: 0 });
  waiting[0].done();
  await settled();
  expect(started[0].startExact).toBeLessThan(0.05 * 44100);
  expect(store.getState().candidate).toMatchObject({ alone: true, phase: 'waiting' });
});

test('a sound that cannot be had is a sentence, not a silence', async () => {
  const { audition, waiting, store } = stageAt(transport);
  void audition.start(loop(1));
  await settled();
  waiting[0].fail(new RangeError('ratio'));
  await settled();
  expect(store.getState().candidate).toMatchObject({ phase: 'failed', message: 'That is too far from its own speed or pitch.' });
  void audition.start(loop(2));
  await settled();
  waiting[1].fail(new Error('The sound could not be loaded.'));
  await settled();
  expect(store.getState().candidate).toMatchObject({ phase: 'failed', message: 'The sound could not be loaded.' });
  // A click on what failed tries again.
  audition.toggle(loop(2));
  await settled();
  expect(store.getState().candidate?.phase).toBe('fitting');
});

test('even level brings all to the same loudness, and raises a whisper no further than 18 dB', async () => {
  const { audition, waiting, started } = stageAt(transport);
  for (const [k, loudnessLufs] of [-10, -26, -60].entries()) {
    void audition.start(loop(k + 1, { loudnessLufs }));
    await settled();
    waiting[k].done();
    await settled();
  }
  expect(started.map(({ levelRatio }) => levelRatio)).toEqual([-8, 8, 18].map((db) => expect.closeTo(dbToRatio(db), 6)));
});

test('even level off: as loud as it is; on again: levelled while it sounds', async () => {
  const { audition, waiting, started, here } = stageAt(transport);
  audition.setSettings({ evenLevel: false });
  void audition.start(loop(1, { loudnessLufs: -6 }));
  await settled();
  waiting[0].done();
  await settled();
  expect(started[0].levelRatio).toBe(1);
  audition.setSettings({ evenLevel: true });
  expect(here.level).toBeCloseTo(dbToRatio(-12), 6);
});

test('a later beginning moves the accent: two beats into itself on the line', async () => {
  const { audition, waiting, started } = stageAt(transport);
  void audition.start(loop(1));
  await settled();
  waiting[0].done();
  await settled();
  audition.treat({ offsetBeats: 2 });
  await settled();
  waiting[1].done();
  await settled();
  expect(started[1].offsetFrames).toBeCloseTo(barFrames / 2, 6);
});

test('a treatment keeps what was done before', async () => {
  const { audition, waiting, store } = stageAt(transport);
  void audition.start(loop(1, { pitched: true, family: 'keys' }));
  await settled();
  audition.treat({ shiftSemitones: 3 });
  await settled();
  audition.treat({ reverse: true });
  await settled();
  expect(waiting.at(-1)?.request).toMatchObject({ shiftSemitones: 3, reverse: true });
  expect(store.getState().candidate?.overrides).toMatchObject({ shiftSemitones: 3, reverse: true });
});

test('what lands ends on the line instead of beginning there', async () => {
  const { audition, waiting, started, here } = stageAt(transport);
  here.now = 100;
  void audition.start(loop(1, { kind: 'one-shot', instrument: 'riser', soundFrames: 30000, tempoBpm: null, beats: null }));
  await settled();
  waiting[0].done();
  await settled();
  expect(started[0].startExact).toBe(barFrames - 30000);
});

test('a click on what sounds ends it', async () => {
  const { audition, waiting, store } = stageAt(transport);
  audition.toggle(loop(1));
  await settled();
  waiting[0].done();
  await settled();
  audition.toggle(loop(1));
  expect(store.getState().candidate).toBeNull();
});

test('fit switches refit what sounds with the project, and leave what is heard alone', async () => {
  const together = stageAt(transport),
    alone = stageAt(null);
  for (const { audition, waiting } of [together, alone]) {
    void audition.start(loop(1, { tempoBpm: 100 }));
    await settled();
    waiting[0].done();
    await settled();
    audition.setSettings({ fitTempo: false });
    await settled();
  }
  expect(together.waiting).toHaveLength(2);
  expect(together.waiting[1].request.targetFrames).toBe(together.waiting[1].request.sourceFrames);
  expect(alone.waiting).toHaveLength(1);
});
