import { ceilingLookaheadFrames } from '~core/dsp/ceiling';
import type { MeterMessage } from './protocol';

type Process = (inputs: Float32Array[][], outputs: Float32Array[][]) => boolean;

/** What the audio thread gives a processor. */
const sent: MeterMessage[] = [];
let Meter: new () => { process: Process };
Object.assign(globalThis, {
  AudioWorkletProcessor: class {
    port = {
      postMessage: (message: MeterMessage) => sent.push({ ...message, peaks: [...message.peaks], truePeaks: [...message.truePeaks] }),
    };
  },
  registerProcessor: (_: string, made: typeof Meter) => {
    Meter = made;
  },
  currentFrame: 0,
});
beforeAll(() => import('./meter.worklet'));
beforeEach(() => {
  sent.length = 0;
});

const blockFrames = 128,
  late = ceilingLookaheadFrames - 1;
/** Plays blocks made by a function of the frame through a meter; gives what came out. */
function play(blocks: number, left: (frame: number) => number, right?: (frame: number) => number): Float32Array[][] {
  const meter = new Meter(),
    out: Float32Array[][] = [];
  for (let block = 0; block < blocks; block++) {
    Object.assign(globalThis, { currentFrame: block * blockFrames });
    const plane = (of: (frame: number) => number) => Float32Array.from({ length: blockFrames }, (_, i) => of(block * blockFrames + i)),
      input = right ? [plane(left), plane(right)] : [plane(left)],
      output = [new Float32Array(blockFrames), new Float32Array(blockFrames)];
    expect(meter.process([input], [output])).toBe(true);
    out.push(output);
  }
  return out;
}

test('what goes in comes out, on both sides, the lookahead later', () => {
  const [, [left, right]] = play(
    2,
    (frame) => frame / 1000,
    (frame) => -frame / 2000,
  );
  expect(left[late]).toBeCloseTo(0.128, 6);
  expect(right[late]).toBeCloseTo(-0.064, 6);
});

test('a click that would hurt is held under full scale, and told; the peak shown is the one that came in', () => {
  const out = play(16, (frame) => (frame === 300 ? 132 : 0.1));
  for (const [left, right] of out) expect(Math.max(...left, ...right)).toBeLessThanOrEqual(1);
  expect(sent[0].peaks[0]).toBe(132);
  expect(sent[0].heldGainRatio).toBeCloseTo(1 / 132, 4);
  expect(sent[1].heldGainRatio).toBeGreaterThan(0.2);
  play(16, () => 0.99);
  expect(sent.slice(2).map(({ heldGainRatio }) => heldGainRatio)).toEqual([1, 1]);
});

test('while nothing sounds, silence comes out', () => {
  const meter = new Meter(),
    output = [new Float32Array(blockFrames).fill(1), new Float32Array(blockFrames).fill(1)];
  meter.process([[]], [output]);
  expect(output[0]).toEqual(new Float32Array(blockFrames));
});

test('one channel is heard on both sides and measured on both', () => {
  const out = play(8, () => 0.25);
  expect(out[1][1][5]).toBe(0.25);
  expect(sent[0].peaks).toEqual([0.25, 0.25]);
});

test('a message every eight blocks, with the frame of the audio thread', () => {
  play(24, () => 0);
  expect(sent.map(({ frame }) => frame)).toEqual([7 * blockFrames, 15 * blockFrames, 23 * blockFrames]);
});

test('peaks are those since the last message, of either sign', () => {
  play(
    16,
    (frame) => (frame === 300 ? -0.9 : frame === 1500 ? 0.3 : 0),
    () => 0,
  );
  expect(sent.map(({ peaks }) => peaks[0])).toEqual([expect.closeTo(0.9, 5), expect.closeTo(0.3, 5)]);
  expect(sent.map(({ peaks }) => peaks[1])).toEqual([0, 0]);
});

test('a tone whose tops lie between the samples peaks higher than its samples (BS.1770, annex 2)', () => {
  // A quarter of the rate, an eighth of a turn late: every sample is 3 dB below the top.
  play(16, (frame) => Math.sin((Math.PI / 2) * frame + Math.PI / 4));
  expect(sent[1].peaks[0]).toBeCloseTo(Math.SQRT1_2, 5);
  expect(sent[1].truePeaks[0]).toBeGreaterThan(0.95);
  expect(sent[1].truePeaks[0]).toBeLessThan(1.06);
});
