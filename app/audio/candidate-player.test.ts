import type { Fitted } from '~core/arrangement/fit-request';
import { CandidatePlayer } from './candidate-player';
import type { FitPool } from './fit-pool';
import type { AudioGraph } from './graph';

const rate = 44100,
  lap = 88200;

/** Writes down what the audio thread would be told, in frames. */
interface Told {
  readonly start: number;
  readonly offset: number;
  readonly fades: { readonly at: number; readonly frames: number; readonly from: number; readonly to: number }[];
  stopped: number | null;
}
let told: Told[] = [];
const frames = (seconds: number) => Math.round(seconds * rate);

class FakeParam {
  readonly fades: Told['fades'] = [];
  constructor(public value = 1) {}
  setValueAtTime(): void {}
  setTargetAtTime(): void {}
  cancelScheduledValues(): void {}
  linearRampToValueAtTime(value: number, time: number): void {
    this.fades.push({ at: frames(time), frames: 0, from: NaN, to: value });
  }
  setValueCurveAtTime(curve: Float32Array, time: number, seconds: number): void {
    this.fades.push({ at: frames(time), frames: frames(seconds), from: curve[0], to: curve[curve.length - 1] });
  }
}
class FakeGain {
  readonly gain: FakeParam;
  constructor(_: unknown, { gain = 1 }: { gain?: number } = {}) {
    this.gain = new FakeParam(gain);
  }
  connect<T>(to: T): T {
    return to;
  }
  disconnect(): void {}
}
class FakeSource {
  private told: Told | null = null;
  private into: FakeGain | null = null;
  connect(to: FakeGain): FakeGain {
    this.into = to;
    return to;
  }
  disconnect(): void {}
  addEventListener(): void {}
  start(when: number, offset: number): void {
    this.told = { start: frames(when), offset: frames(offset), fades: this.into?.gain.fades ?? [], stopped: null };
    told.push(this.told);
  }
  stop(when: number): void {
    if (this.told) this.told.stopped = frames(when);
  }
}
Object.assign(globalThis, { GainNode: FakeGain, AudioBufferSourceNode: FakeSource });

const fitted = (name: string): Fitted => ({
  request: {
    kind: 'lap',
    soundSha: name,
    startFrame: 0,
    sourceFrames: lap,
    targetFrames: lap,
    shiftSemitones: 0,
    engine: 'tonal',
    onsetFrames: [],
    beats: 4,
    instrument: null,
  },
  lapFrames: lap,
  lapBeats: 4,
  speedPercent: 0,
  shiftSemitones: 0,
  reading: 1,
});

function playerAt(): { player: CandidatePlayer; begin: (name: string, line: number, now: number, offsetFrames?: number) => void } {
  const context = { sampleRate: rate, currentTime: 0 },
    player = new CandidatePlayer(
      { context, candidate: new FakeGain(null) } as unknown as AudioGraph,
      { peek: () => ({ length: lap }) } as unknown as FitPool,
    );
  return {
    player,
    begin: (name, line, now, offsetFrames = 0) => {
      player.start({ id: name, fitted: fitted(name), startExact: line, lengthFrames: lap * 100, offsetFrames, levelRatio: 1 }, now);
      player.pump(now, now + 40000);
    },
  };
}
beforeEach(() => {
  told = [];
});

test('the first one begins on its line, on a whole frame, with its attack', () => {
  const { player, begin } = playerAt();
  begin('one', 10000.4, 5000);
  expect(told).toHaveLength(1);
  expect(told[0]).toMatchObject({ start: 10000, offset: 0 });
  expect(told[0].fades[0].at).toBe(10016);
  expect(player.originFrame).toBe(10000);
  expect(player.phase(9999)).toBeNull();
  expect(player.phase(10000 + lap / 4)).toBeCloseTo(0.25, 9);
});

test('the next takes over in the 128 frames before its line, by equal power, led in by its own end', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  expect(told[1]).toMatchObject({ start: 50000 - 128, offset: lap - 128 });
  expect(told[1].fades[0]).toMatchObject({ at: 50000 - 128, frames: 128, from: 0, to: 1 });
  const out = told[0].fades.at(-1);
  expect(out).toMatchObject({ at: 50000 - 128, frames: 128, from: 1 });
  expect(out?.to).toBeCloseTo(0, 9);
  expect(told[0].stopped).toBe(50000);
});

test('one that is replaced before its line never sounds, and its successor is led in all the same', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000);
  begin('two', 50000, 30000);
  begin('three', 50000, 40000);
  expect(told[1].stopped).toBe(0);
  expect(told[2]).toMatchObject({ start: 50000 - 128, offset: lap - 128 });
  expect(told[0].stopped).toBe(50000);
});

test('what begins in the middle of its lap begins softly', () => {
  const { begin } = playerAt();
  begin('one', 10000, 5000, 22050);
  expect(told[0]).toMatchObject({ start: 10000, offset: 22050 });
  expect(told[0].fades[0].at).toBe(10256);
});

test('ended, it fades from a frame on; what had not begun is taken back', () => {
  const { player, begin } = playerAt();
  begin('one', 10000, 5000);
  player.end(20000);
  expect(told[0].stopped).toBe(20256);
  expect(player.originFrame).toBeNull();
  begin('two', 60000, 30000);
  player.end(31000);
  expect(told[1].stopped).toBe(0);
});
