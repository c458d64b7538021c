import { KernelNumbers, kernels } from './kernels/kernels';
import { assertPositive } from '../units/assert';

const tapsPerSide = 24;
const tableSteps = 512;
let kernelTable: Float64Array | null = null;

/** Kaiser-windowed sinc, β = 9, sampled `tableSteps` times a frame; linear between the samples (about −100 dB of error). */
function kernel(): Float64Array {
  if (kernelTable) return kernelTable;
  const length = tapsPerSide * tableSteps + 2;
  const table = new Float64Array(length);
  const beta = 9;
  const bessel = (x: number) => {
    let sum = 1,
      term = 1;
    for (let k = 1; k < 30; k++) {
      term *= (x / (2 * k)) ** 2;
      sum += term;
    }
    return sum;
  };
  const full = bessel(beta);
  for (let i = 0; i < length; i++) {
    const x = i / tableSteps;
    const inside = 1 - (x / tapsPerSide) ** 2;
    const sinc = x === 0 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x);
    table[i] = inside <= 0 ? 0 : (sinc * bessel(beta * Math.sqrt(inside))) / full;
  }
  return (kernelTable = table);
}

/**
 * Resamples a *cyclic* signal to exactly `targetFrames`: the loop stays a loop, with no drift and no seam. Reading wraps
 * around; when frames are dropped the kernel widens so that nothing folds back.
 * @throws {RangeError} when targetFrames is not above 0
 */
export const resampleCyclic = (signal: Float32Array, targetFrames: number): Float32Array => resampleCycle([signal], targetFrames)[0];

/** `resampleCyclic` for all channels of a cycle, two at a time. */
export function resampleCycle(planes: readonly Float32Array[], targetFrames: number): Float32Array[] {
  assertPositive('targetFrames', targetFrames);
  const sourceFrames = planes[0].length;
  if (sourceFrames === 0) return planes.map(() => new Float32Array(targetFrames));
  if (sourceFrames === targetFrames) return planes.map((plane) => plane.slice());
  const kernel = resamplingKernel(sourceFrames / targetFrames),
    out = planes.map(() => new Float32Array(targetFrames));
  for (let channel = 0; channel < planes.length; channel += 2) {
    const other = Math.min(channel + 1, planes.length - 1);
    resamplePair(planes[channel], planes[other], out[channel], out[other], kernel);
  }
  return out;
}

/** How frames are made from those around them; see `phaseRows`. */
export interface ResamplingKernel {
  /** Frames of the source for one that is made. */
  readonly step: number;
  readonly narrow: number;
  readonly reach: number;
  readonly rows: Float64Array;
}

/** The kernel for `step` frames of the source for each one made. */
export function resamplingKernel(step: number): ResamplingKernel {
  const narrow = narrowing(step),
    reach = Math.ceil(tapsPerSide / narrow);
  return { step, narrow, reach, rows: phaseRows(narrow, reach) };
}

/** So many frames are made in one go. */
const pieceFrames = 2048;

/** Room in the memory of the kernels for weights, and for a piece of two channels side by side before and after; grows when it must. */
const room = { rows: null, source: null, out: null } as {
  rows: KernelNumbers | null;
  source: KernelNumbers | null;
  out: KernelNumbers | null;
};
function roomFor(what: keyof typeof room, length: number): KernelNumbers {
  const found = room[what];
  return found && found.length >= length ? found : (room[what] = new KernelNumbers(Math.ceil(length * 1.5)));
}

/**
 * Makes the frames from number `firstMade` on of two channels; a lone one is given as both.
 * @param fill puts `count` frames of the source, both channels side by side, from frame `from` of it on
 */
export function makeResampled(
  outOne: Float32Array,
  outOther: Float32Array,
  firstMade: number,
  { step, narrow, reach, rows }: ResamplingKernel,
  fill: (sideBySide: Float32Array, from: number, count: number) => void,
): void {
  const taps = 2 * reach,
    longest = Math.ceil(pieceFrames * step) + taps + 2,
    weights = roomFor('rows', rows.length * 2),
    source = roomFor('source', longest * 2),
    made = roomFor('out', pieceFrames * 2);
  weights.view.set(new Float32Array(rows.buffer, rows.byteOffset, rows.length * 2));
  for (let done = 0; done < outOne.length; done += pieceFrames) {
    const count = Math.min(pieceFrames, outOne.length - done),
      first = firstMade + done,
      base = Math.floor(first * step);
    fill(source.view, base + 1 - reach, Math.floor((first + count - 1) * step) - base + taps);
    kernels().resample(source.at, weights.at, made.at, count, first, base, step, phases, narrow, taps);
    const madeView = made.view;
    for (let k = 0; k < count; k++) {
      outOne[done + k] = madeView[2 * k];
      outOther[done + k] = madeView[2 * k + 1];
    }
  }
}

/** Two channels of a loop, which is read round and round. */
function resamplePair(
  one: Float32Array,
  other: Float32Array,
  outOne: Float32Array,
  outOther: Float32Array,
  kernel: ResamplingKernel,
): void {
  const frames = one.length;
  makeResampled(outOne, outOther, 0, kernel, (sideBySide, from, count) => {
    let read = ((from % frames) + frames) % frames;
    for (let k = 0; k < count; k++) {
      sideBySide[2 * k] = one[read];
      sideBySide[2 * k + 1] = other[read];
      if (++read === frames) read = 0;
    }
  });
}

/** The kernel's width: 2 % below the lower Nyquist, where its slope ends. */
const narrowing = (step: number): number => Math.min(1, 1 / step) * 0.98;

const phases = 512;

/** The kernel's values at all taps for each of 512 places between two frames, and once more for the place after: rows of `2 · reach`. */
function phaseRows(narrow: number, reach: number): Float64Array {
  const taps = 2 * reach,
    rows = new Float64Array((phases + 1) * taps),
    table = kernel(),
    scale = narrow * tableSteps,
    lastIndex = tapsPerSide * tableSteps;
  for (let phase = 0; phase <= phases; phase++)
    for (let tap = 0; tap < taps; tap++) {
      const distance = Math.abs(phase / phases + reach - 1 - tap) * scale,
        index = Math.floor(distance);
      if (index < lastIndex) rows[phase * taps + tap] = table[index] + (table[index + 1] - table[index]) * (distance - index);
    }
  return rows;
}
