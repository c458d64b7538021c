import { keptOnce } from '../../kept/kept';
import { betweenFrames } from '../true-peak';
import { KernelNumbers, kernels } from './kernels';

/** What two stretches of sound of the same length add up to; a lone one is given twice. */
export interface Survey {
  readonly sums: readonly [left: number, right: number];
  readonly energies: readonly [left: number, right: number];
  /** Sum of their products. */
  readonly shared: number;
  readonly peaks: readonly [left: number, right: number];
}

/** Sound passes through the memory of the kernels in pieces of this many frames. */
const pieceFrames = 16384;
const room = keptOnce(() => ({
  left: new KernelNumbers(pieceFrames),
  right: new KernelNumbers(pieceFrames),
  out: new KernelNumbers(16),
  weighing: new KernelNumbers(2 * 22),
  between: KernelNumbers.of(betweenFrames.flatMap((taps) => [...taps])),
}));

/** Puts a piece into the room, filled up with silence to whole steps; gives the steps' frames. */
function put(numbers: KernelNumbers, plane: Float32Array, from: number, to: number): number {
  const frames = to - from,
    whole = Math.ceil(frames / 4) * 4,
    { view } = numbers;
  view.set(plane.subarray(from, to));
  if (whole > frames) view.fill(0, frames, whole);
  return whole;
}

/** Sums, energies and peaks of frames `from` to `to`, to be asked for stretches of at most 16,384 frames. @throws {RangeError} for longer ones */
export function survey(left: Float32Array, right: Float32Array, from: number, to: number): Survey {
  const work = room(),
    whole = put(work.left, left, from, to);
  if (right !== left) put(work.right, right, from, to);
  kernels().survey(work.left.at, right === left ? work.left.at : work.right.at, whole, work.out.at);
  const { view } = work.out,
    [l1, r1, ll, rr, lr, lm, rm] = new Float64Array(view.buffer, view.byteOffset, 7);
  return { sums: [l1, r1], energies: [ll, rr], shared: lr, peaks: [lm, rm] };
}

/** What a pair of filters of two channels remembers, see `weigh`: x1, x2, y1, y2, z1, z2 and the sum of squares, each left and right. */
export const weighingStateSize = 14;

/**
 * Runs two channels through two filters one after the other and sums the squares of what comes out: `filter` is b0, b1, b2, a1, a2 of the first and
 * a1, a2 of the second, whose zeros both lie at 0 Hz. `state` is carried on.
 */
export function weigh(left: Float32Array, right: Float32Array, from: number, to: number, filter: Float64Array, state: Float64Array): void {
  const work = room();
  for (let at = from; at < to; at += pieceFrames) {
    const end = Math.min(to, at + pieceFrames);
    put(work.left, left, at, end);
    if (right !== left) put(work.right, right, at, end);
    // Views are made anew: the memory may have grown.
    const numbers = () => new Float64Array(work.weighing.view.buffer, work.weighing.view.byteOffset, 8 + weighingStateSize);
    numbers().set(filter);
    numbers().set(state, 8);
    kernels().weigh(work.left.at, right === left ? work.left.at : work.right.at, end - at, work.weighing.at, work.weighing.at + 64);
    state.set(numbers().subarray(8));
  }
}

/** Largest absolute sample. */
export function peakOf(plane: Float32Array): number {
  let peak = 0;
  for (let from = 0; from < plane.length; from += pieceFrames)
    peak = Math.max(peak, survey(plane, plane, from, Math.min(plane.length, from + pieceFrames)).peaks[0]);
  return peak;
}

/**
 * The highest level of the curve between frames `from` and `to`, four times oversampled (BS.1770-4, annex 2), for stretches of at most 16,000
 * frames: five frames before it and six behind it are looked at, and have to be there.
 */
export function highestBetween(plane: Float32Array, from: number, to: number): number {
  const work = room();
  put(work.left, plane, from - 5, to + 6);
  // The kernel goes in steps of four; what is left over is looked at here, in the same order.
  const whole = Math.floor((to - from) / 4) * 4;
  let highest = kernels().highestBetween(work.left.at, work.between.at, whole);
  for (let i = from + whole; i < to; i++)
    for (const taps of betweenFrames) {
      let value = 0;
      for (let k = 0; k < 12; k++) value += taps[k] * plane[i - 5 + k];
      highest = Math.max(highest, Math.abs(value));
    }
  return highest;
}

/** The mean of two channels of the same length. */
export function meanOf(left: Float32Array, right: Float32Array): Float32Array {
  const work = room(),
    out = new Float32Array(left.length);
  for (let from = 0; from < out.length; from += pieceFrames) {
    const to = Math.min(out.length, from + pieceFrames),
      whole = put(work.left, left, from, to);
    put(work.right, right, from, to);
    kernels().mean(work.left.at, work.right.at, work.left.at, whole);
    out.set(work.left.view.subarray(0, to - from), from);
  }
  return out;
}
