import { FakeGain, FakePanner, forgetSources, installFakeAudio, oscillators, sources } from '../../test/audio/fake-audio';
import type { CandidatePlayer } from './candidate-player';
import { EarCheck } from './ear-check';
import type { AudioGraph } from './graph';

installFakeAudio();
class ClickBuffer {
  readonly plane: Float32Array;
  constructor({ length }: { readonly length: number }) {
    this.plane = new Float32Array(length);
  }
  getChannelData(): Float32Array {
    return this.plane;
  }
}
Object.assign(globalThis, { AudioBuffer: ClickBuffer });

const rate = 44100;
let context: { currentTime: number }, side: FakePanner, origin: number | null, check: EarCheck;
beforeEach(() => {
  forgetSources();
  context = { currentTime: 2 };
  side = new FakePanner();
  origin = 3 * rate;
  const graph = { context, click: new FakeGain(), side } as unknown as AudioGraph,
    candidate = {
      get originFrame() {
        return origin;
      },
    } as unknown as CandidatePlayer;
  check = new EarCheck(graph, candidate);
});
const now = () => Math.round(context.currentTime * rate);
const sounding = (frame: number) =>
  oscillators.filter((each) => each.levelAt(frame) > 0).map(({ frequencyHz }) => Math.round(frequencyHz * 100) / 100);

describe('tones to compare with', () => {
  test('a drone is a note, its fifth and its octave, and stays', () => {
    check.drone(57);
    expect(sounding(now() + 60 * rate)).toEqual([220, 329.63, 440]);
  });

  test('with a third it is a chord', () => {
    check.drone(57, 3);
    expect(sounding(now() + 60 * rate)).toEqual([220, 261.63, 329.63, 440]);
    context.currentTime = 5;
    check.drone(57, 4);
    expect(sounding(now() + rate)).toEqual([220, 277.18, 329.63, 440]);
  });

  test('another drone takes its place; none ends it', () => {
    check.drone(57);
    context.currentTime = 5;
    check.drone(60);
    expect(sounding(now() + rate)).toEqual([261.63, 392, 523.25]);
    context.currentTime = 8;
    check.drone(null);
    expect(sounding(now() + rate)).toEqual([]);
  });

  test('none where none sounds is no error', () => expect(() => check.drone(null)).not.toThrow());

  test('a chord is struck at once and dies away; more notes are each softer, so that the chord is no louder', () => {
    check.strike([60, 64, 67], 1);
    check.strike([60], 1);
    const soon = now() + 0.02 * rate,
      [of3, , , alone] = oscillators;
    expect(sounding(soon)).toHaveLength(4);
    expect(of3.levelAt(soon) / alone.levelAt(soon)).toBeCloseTo(1 / Math.sqrt(3), 3);
    expect(sounding(now() + 2 * rate)).toEqual([]);
  });

  test('a scale comes note by note', () => {
    check.line([60, 62, 64]);
    const starts = oscillators.map(({ startFrame }) => startFrame);
    expect(starts[1] - starts[0]).toBe(Math.round(0.28 * rate));
    expect(starts[2] - starts[1]).toBe(Math.round(0.28 * rate));
    expect(starts[0]).toBeGreaterThan(now());
  });
});

describe('clicks against a loop', () => {
  test('begin with the loop, which goes to the left', () => {
    check.startClicks(120);
    expect(sources.map(({ startFrame }) => startFrame)).toEqual([3 * rate]);
    expect(side.pan.valueAt(now() + rate)).toBe(-0.8);
  });

  test('are four beats of the tempo, the first one higher', () => {
    const buffers: ClickBuffer[] = [];
    const Known = globalThis.AudioBuffer as unknown as typeof ClickBuffer;
    Object.assign(globalThis, {
      AudioBuffer: class extends Known {
        constructor(setting: { readonly length: number }) {
          super(setting);
          buffers.push(this);
        }
      },
    });
    check.startClicks(90);
    Object.assign(globalThis, { AudioBuffer: Known });
    const beat = (60 / 90) * rate,
      [{ plane }] = buffers;
    expect(plane).toHaveLength(Math.round(4 * beat));
    const rising = (from: number) => plane.slice(from, from + 1000).filter((value, i, all) => i > 0 && value >= 0 && all[i - 1] < 0).length;
    const clicks = [0, 1, 2, 3].map((k) => rising(Math.round(k * beat)));
    expect(clicks[0]).toBeGreaterThan(clicks[1] + 8);
    expect(clicks[1]).toBe(clicks[2]);
    // Silence between them.
    expect(Math.max(...plane.slice(Math.round(beat / 2), Math.round(beat) - 1))).toBe(0);
  });

  test('started anew they are not heard twice; stopped, the loop comes back to the middle', () => {
    check.startClicks(120);
    context.currentTime = 4;
    check.startClicks(60);
    expect(sources.filter((source) => source.stopFrame === Infinity)).toHaveLength(1);
    check.stopClicks();
    expect(sources.filter((source) => source.stopFrame === Infinity)).toHaveLength(0);
    expect(side.pan.valueAt(now() + rate)).toBe(0);
  });

  test('without a loop there is nothing to click against', () => {
    origin = null;
    check.startClicks(120);
    expect(sources).toHaveLength(0);
    expect(side.pan.valueAt(now() + rate)).toBe(0);
  });
});
