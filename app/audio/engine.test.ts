import type { LoopSource } from '~core/arrangement/fit-request';
import { emptyProject, type Clip, type Project } from '~core/arrangement/tree';
import { plainClip, plainTrack } from '../../test/generators/track';
import { forgetSources, installFakeAudio, oscillators, sources } from '../../test/audio/fake-audio';
import { FakeGraph, FakeWorker, NamedBuffer } from '../../test/audio/fake-engine';

jest.mock('./graph', () => ({ AudioGraph: { open: (rateHz: number, onMeter: FakeGraph['onMeter']) => FakeGraph.open(rateHz, onMeter) } }));
jest.mock('./worker-url', () => ({ fitWorker: () => new FakeWorker() }));
const listeners = new Map<string, () => void>(),
  listen = (name: string, listener: () => void) => void listeners.set(name, listener),
  page = { visibilityState: 'visible', addEventListener: listen };
Object.assign(globalThis, { AudioBuffer: NamedBuffer, document: page });
Object.defineProperty(globalThis, 'navigator', { value: { hardwareConcurrency: 2, mediaDevices: { addEventListener: listen } } });
installFakeAudio();
import { AudioEngine } from './engine';
import { leadFrames } from './pace';

const beat = 22050,
  bar = 4 * beat;
const loop = (id: number): LoopSource => ({
  loopId: id,
  kind: 'loop',
  media: 'audio',
  soundSha: String(id),
  soundFrames: bar,
  tempoBpm: 120,
  beats: 4,
  barBeats: 4,
  key: { tonic: 0, mode: 'minor' },
  pitched: true,
  family: 'keys',
  instrument: 'piano',
  loudnessLufs: -16,
  startFrame: 0,
  onsetFrames: [],
});
const loops = new Map([1, 2].map((id) => [id, loop(id)]));
const clip = (loopId: number, startBeat: number, lengthBeats: number): Clip =>
  plainClip({ id: `clip ${loopId} at ${startBeat}`, loopId, startBeat, lengthBeats });
const projectOf = (changes: Partial<Project>, ...clips: Clip[]): Project => ({
  ...emptyProject('Piece', 120, { tonic: 0, mode: 'minor' }),
  tracks: [plainTrack({ id: 'track', clips })],
  ...changes,
});
/** Two bars: the first loop in the first bar, the second in the second. */
const piece = (changes: Partial<Project> = {}) => projectOf(changes, clip(1, 0, 4), clip(2, 4, 4));

/** Everything that waits for answers has had its turn. */
const settled = async () => {
  for (let turn = 0; turn < 20; turn++) await Promise.resolve();
};
/** Lets the audio thread's clock run to a frame; it tells the engine as the meter does. */
function runTo(frame: number): void {
  const { context, onMeter } = FakeGraph.current;
  for (let now = Math.round(context.currentTime * 44100); now < frame;) {
    now = Math.min(frame, now + 2048);
    context.currentTime = now / 44100;
    onMeter({ frame: now, peaks: [0.1, 0.2], truePeaks: [0.1, 0.3], heldGainRatio: 1 });
  }
}
async function playing(project = piece()): Promise<AudioEngine> {
  const engine = new AudioEngine();
  engine.setProject(project, loops);
  await engine.open();
  await settled();
  await engine.play();
  return engine;
}
const starts = () => sources.filter(({ name }) => name !== 'click').map(({ name, startFrame }) => [name, startFrame]);

beforeEach(() => {
  forgetSources();
  FakeWorker.all = [];
  FakeWorker.held = false;
  page.visibilityState = 'visible';
});

describe('playing', () => {
  test('begins a moment ahead, and every clip on its frame, round and round', async () => {
    const engine = await playing();
    expect(engine.store.getState()).toMatchObject({ playing: true, range: { startBeat: 0, endBeat: 8 } });
    runTo(leadFrames + 4 * bar);
    expect(starts().slice(0, 5)).toEqual([0, 1, 2, 3, 4].map((k) => [`loop ${1 + (k % 2)} of ${bar}`, leadFrames + k * bar]));
  });

  test('stops where it is, and goes on from there', async () => {
    const engine = await playing();
    runTo(leadFrames + 5 * beat);
    engine.stop();
    expect(engine.store.getState().playing).toBe(false);
    // The sound fades a fiftieth of a second later.
    expect(engine.positionBeat()).toBeCloseTo(5.04, 2);
    forgetSources();
    await engine.play();
    const [only] = sources;
    expect(only.name).toBe(`loop 2 of ${bar}`);
    expect(only.offsetFrame).toBeCloseTo(1.04 * beat, -1);
  });

  test('the playhead is moved while it plays: what sounded fades, what is there sounds', async () => {
    const engine = await playing();
    runTo(leadFrames + beat);
    const [first] = sources;
    engine.seek(6);
    const at = beat + 2 * leadFrames;
    expect(first.heardAt(at + 400)).toBe(0);
    expect(sources[sources.length - 1]).toMatchObject({ name: `loop 2 of ${bar}`, startFrame: at, offsetFrame: 2 * beat });
    expect(engine.positionBeat()).toBeCloseTo(6, 0);
  });

  test('a range repeats, and the whole piece again when it is taken away', async () => {
    const engine = await playing();
    runTo(leadFrames + beat);
    engine.setRange({ startBeat: 4, endBeat: 8 });
    // It goes on into the range, and stays there.
    runTo(leadFrames + 4 * bar + beat);
    expect(engine.positionBeat()).toBeCloseTo(5, 1);
    expect(engine.store.getState().range).toEqual({ startBeat: 4, endBeat: 8 });
    engine.setRange(null);
    expect(engine.store.getState().range).toEqual({ startBeat: 0, endBeat: 8 });
  });

  test('a count-in clicks a bar before the first beat, and the metronome on every beat', async () => {
    const engine = new AudioEngine();
    engine.setProject(piece(), loops);
    await engine.open();
    await settled();
    engine.setTransport({ countInBars: 1 });
    await engine.play();
    runTo(leadFrames + bar + 2 * beat);
    const clicks = () => sources.filter(({ name }) => name === 'click').map(({ startFrame }) => (startFrame - leadFrames) / beat);
    expect(clicks()).toEqual([0, 1, 2, 3]);
    expect(starts()[0]).toEqual([`loop 1 of ${bar}`, leadFrames + bar]);
    engine.setTransport({ metronome: true });
    runTo(leadFrames + 2 * bar);
    expect(clicks().slice(4, 6)).toEqual([7, 8]);
  });
});

describe('what changes while it plays', () => {
  test('a new tempo comes when its sounds are made, and the beat is kept', async () => {
    const engine = await playing();
    runTo(leadFrames + 2 * beat);
    FakeWorker.held = true;
    engine.setProject(piece({ tempoBpm: 100 }), loops);
    await settled();
    runTo(leadFrames + 3 * beat);
    expect(engine.positionBeat()).toBeCloseTo(3, 2);
    forgetSources();
    for (let k = 0; k < 4; k++) FakeWorker.all.forEach((worker) => worker.answer());
    await settled();
    const at = 3 * beat + 2 * leadFrames,
      slow = Math.round(beat * 1.2);
    expect(sources[0]).toMatchObject({ name: `loop 1 of ${Math.round(bar * 1.2)}`, startFrame: at });
    // It goes on from the beat it would have reached by then.
    expect(sources[0].offsetFrame / slow).toBeCloseTo(3 + leadFrames / beat, 3);
    runTo(at);
    expect(engine.positionBeat()).toBeCloseTo(3 + leadFrames / beat, 2);
  });

  test('of two new tempos one after the other only the last is taken', async () => {
    const engine = await playing();
    runTo(leadFrames + beat);
    FakeWorker.held = true;
    engine.setProject(piece({ tempoBpm: 100 }), loops);
    engine.setProject(piece({ tempoBpm: 90 }), loops);
    for (let k = 0; k < 8; k++) {
      FakeWorker.all.forEach((worker) => worker.answer());
      await settled();
    }
    forgetSources();
    runTo(leadFrames + 3 * bar);
    expect(new Set(starts().map(([name]) => name))).toEqual(new Set([1, 2].map((id) => `loop ${id} of ${Math.round((bar * 120) / 90)}`)));
  });

  test('a clip that is taken away fades, the others go on untouched', async () => {
    const long = (...clips: Clip[]) => projectOf({}, clip(1, 0, 8), ...clips),
      engine = await playing(long(clip(2, 0, 8)));
    runTo(leadFrames + beat);
    const [one, two] = sources;
    engine.setProject(long(), loops);
    expect(sources).toHaveLength(2);
    expect([one.heardAt(3 * beat), two.heardAt(3 * beat)]).toEqual([1, 0]);
  });

  test('a drone ends when a project comes into the room, and one that is set there goes on through its edits', async () => {
    const engine = new AudioEngine();
    await engine.open();
    engine.setFree({ droneNote: 57, droneThird: 3 });
    await settled();
    expect(oscillators.map(({ stopFrame }) => stopFrame)).toEqual([Infinity, Infinity, Infinity, Infinity]);
    engine.setProject(piece(), loops);
    await settled();
    expect(engine.store.getState().free.droneNote).toBeNull();
    expect(oscillators.every(({ stopFrame }) => Number.isFinite(stopFrame))).toBe(true);
    engine.setFree({ droneNote: 50 });
    engine.setProject(piece({ name: 'Renamed' }), loops);
    await settled();
    expect(engine.store.getState().free.droneNote).toBe(50);
  });

  test('no project: silence, at the free tempo', async () => {
    const engine = await playing();
    runTo(leadFrames + beat);
    expect(engine.inRoom).toBe(true);
    engine.setProject(null, new Map());
    await settled();
    engine.setFree({ tempoBpm: 90 });
    expect(engine.inRoom).toBe(false);
    const [first] = sources;
    expect(first.heardAt(2 * beat)).toBe(0);
  });
});

describe('the device', () => {
  test('when the browser takes it away it is asked for again, and the page says so until it is back', async () => {
    const engine = await playing(),
      { context } = FakeGraph.current;
    runTo(leadFrames + beat);
    context.state = 'suspended';
    context.onstatechange?.();
    expect(context.resume).toHaveBeenCalledTimes(1);
    expect(engine.store.getState().trouble).toMatch(/paused the sound/);
    context.state = 'running';
    context.onstatechange?.();
    expect(engine.store.getState().trouble).toBeNull();
    // Its clock stood still meanwhile, so the music is where it was, on its beat.
    expect(engine.positionBeat()).toBeCloseTo(1, 2);
    forgetSources();
    runTo(leadFrames + bar + beat);
    expect(starts()).toEqual([[`loop 2 of ${bar}`, leadFrames + bar]]);
  });

  test('a tab that wakes and a device that is plugged in or out ask for it too; a hidden tab and silence do not', async () => {
    const engine = await playing(),
      { context } = FakeGraph.current;
    context.state = 'suspended';
    page.visibilityState = 'hidden';
    listeners.get('visibilitychange')?.();
    expect(context.resume).not.toHaveBeenCalled();
    page.visibilityState = 'visible';
    listeners.get('visibilitychange')?.();
    listeners.get('devicechange')?.();
    expect(context.resume).toHaveBeenCalledTimes(2);
    engine.stop();
    listeners.get('devicechange')?.();
    context.onstatechange?.();
    expect(context.resume).toHaveBeenCalledTimes(2);
    expect(engine.store.getState().trouble).toBeNull();
  });

  test('it is opened once, however many ask', async () => {
    const engine = new AudioEngine();
    expect([engine.isOpen, engine.figures(), engine.readSpectra(new Float32Array(1), new Float32Array(1))]).toEqual([false, null, false]);
    await Promise.all([engine.open(), engine.open()]);
    const graph = FakeGraph.current;
    await engine.open();
    expect(FakeGraph.current).toBe(graph);
    expect(engine.figures()).toMatchObject({ state: 'running', sampleRateHz: 44100, buffers: 0, waiting: 0 });
  });

  test('peaks are the highest since they were last taken', async () => {
    const engine = await playing();
    FakeGraph.current.onMeter({ frame: 0, peaks: [0.5, 0.1], truePeaks: [0.6, 0.1], heldGainRatio: 0.8 });
    FakeGraph.current.onMeter({ frame: 1, peaks: [0.2, 0.4], truePeaks: [0.2, 0.5], heldGainRatio: 1 });
    expect(engine.takePeaks()).toEqual({ peaks: [0.5, 0.4], truePeaks: [0.6, 0.5], heldGainRatio: 0.8 });
    expect(engine.takePeaks()).toEqual({ peaks: [0, 0], truePeaks: [0, 0], heldGainRatio: 1 });
  });
});

test('a piece that is fitted for the first time says how much is still open', async () => {
  FakeWorker.held = true;
  const engine = new AudioEngine();
  engine.setProject(piece(), loops);
  await engine.open();
  expect(engine.store.getState().fittingCount).toBe(2);
  await engine.play();
  runTo(leadFrames + beat);
  expect(starts()).toEqual([]);
  FakeWorker.all.forEach((worker) => worker.answer());
  await settled();
  // What came late begins at the place it would have reached.
  runTo(leadFrames + beat + 2048);
  const [late] = sources;
  expect(late.name).toBe(`loop 1 of ${bar}`);
  expect(late.startFrame - leadFrames).toBe(late.offsetFrame);
  FakeWorker.all.forEach((worker) => worker.answer());
  await settled();
  expect(engine.store.getState().fittingCount).toBe(0);
});
