import { KernelNumbers, kernels } from './kernels/kernels';
import { assertPositive } from '../units/assert';

export const tapsPerSide = 24;
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
export const resampleCyclic = (signal: Float32Array, targetFrames: number): Float32Array => resampleLap([signal], targetFrames)[0];

/** `resampleCyclic` for all channels of a lap, two at a time. */
export function resampleLap(planes: readonly Float32Array[], targetFrames: number): Float32Array[] {
  assertPositive('targetFrames', targetFrames);
  const sourceFrames = planes[0].length;
  if (sourceFrames === 0) return planes.map(() => new Float32Array(targetFrames));
  if (sourceFrames === targetFrames) return planes.map((plane) => plane.slice());
  const step = sourceFrames / targetFrames,
    narrow = narrowing(step),
    reach = Math.ceil(tapsPerSide / narrow),
    rows = phaseRows(narrow, reach),
    out = planes.map(() => new Float32Array(targetFrames));
  for (let channel = 0; channel < planes.length; channel += 2) {
    const other = Math.min(channel + 1, planes.length - 1);
    resamplePair(planes[channel], planes[other], out[channel], out[other], { step, narrow, reach, rows });
  }
  return out;
}

interface Kernel {
  readonly step: number;
  readonly narrow: number;
  readonly reach: number;
  readonly rows: Float64Array;
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

/** Two channels; a lone one is given as both. The loop is read round and round. */
function resamplePair(
  one: Float32Array,
  other: Float32Array,
  outOne: Float32Array,
  outOther: Float32Array,
  { step, narrow, reach, rows }: Kernel,
): void {
  const taps = 2 * reach,
    frames = one.length,
    longest = Math.ceil(pieceFrames * step) + taps + 2,
    weights = roomFor('rows', rows.length * 2),
    source = roomFor('source', longest * 2),
    made = roomFor('out', pieceFrames * 2);
  weights.view.set(new Float32Array(rows.buffer, rows.byteOffset, rows.length * 2));
  const sourceView = source.view,
    madeView = made.view;
  for (let from = 0; from < outOne.length; from += pieceFrames) {
    const count = Math.min(pieceFrames, outOne.length - from),
      base = Math.floor(from * step),
      needed = Math.floor((from + count - 1) * step) - base + taps;
    let read = (((base + 1 - reach) % frames) + frames) % frames;
    for (let k = 0; k < needed; k++) {
      sourceView[2 * k] = one[read];
      sourceView[2 * k + 1] = other[read];
      if (++read === frames) read = 0;
    }
    kernels().resample(source.at, weights.at, made.at, count, from, base, step, phases, narrow, taps);
    for (let k = 0; k < count; k++) {
      outOne[from + k] = madeView[2 * k];
      outOther[from + k] = madeView[2 * k + 1];
    }
  }
}

/** The kernel's width: 2 % below the lower Nyquist, where its slope ends. */
export const narrowing = (step: number): number => Math.min(1, 1 / step) * 0.98;

export const phases = 512;

/** The kernel's values at all taps for each of 512 places between two frames, and once more for the place after: rows of `2 · reach`. */
export function phaseRows(narrow: number, reach: number): Float64Array {
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
