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

const blockFrames = 128;
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

test('what goes in comes out, on both sides', () => {
  const [[left, right]] = play(
    1,
    (frame) => frame / 1000,
    (frame) => -frame / 2000,
  );
  expect(left[100]).toBeCloseTo(0.1, 6);
  expect(right[100]).toBeCloseTo(-0.05, 6);
});

test('one channel is heard on both sides and measured on both', () => {
  const out = play(8, () => 0.25);
  expect(out[0][1][5]).toBe(0.25);
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
