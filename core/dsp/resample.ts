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

/** `resampleCyclic` for all channels of a lap; two at a time share their weights. */
export function resampleLap(planes: readonly Float32Array[], targetFrames: number): Float32Array[] {
  assertPositive('targetFrames', targetFrames);
  const sourceFrames = planes[0].length;
  if (sourceFrames === 0) return planes.map(() => new Float32Array(targetFrames));
  if (sourceFrames === targetFrames) return planes.map((plane) => plane.slice());
  const step = sourceFrames / targetFrames,
    narrow = narrowing(step),
    reach = Math.ceil(tapsPerSide / narrow),
    rows = phaseRows(narrow, reach),
    padded = planes.map((plane) => padCyclic(plane, reach)),
    out = planes.map(() => new Float32Array(targetFrames));
  let channel = 0;
  for (; channel + 1 < planes.length; channel += 2)
    resamplePair(padded[channel], padded[channel + 1], out[channel], out[channel + 1], { step, narrow, reach, rows });
  if (channel < planes.length) resampleOne(padded[channel], out[channel], { step, narrow, reach, rows });
  return out;
}

/** The loop with its own end in front and its own start behind, so that reading never has to turn round. */
function padCyclic(plane: Float32Array, reach: number): Float64Array {
  const frames = plane.length,
    padded = new Float64Array(frames + 2 * reach + 1);
  let from = (((1 - reach) % frames) + frames) % frames;
  for (let i = 0; i < padded.length; i++) {
    padded[i] = plane[from];
    if (++from === frames) from = 0;
  }
  return padded;
}

interface Kernel {
  readonly step: number;
  readonly narrow: number;
  readonly reach: number;
  readonly rows: Float64Array;
}

function resampleOne(source: Float64Array, out: Float32Array, { step, narrow, reach, rows }: Kernel): void {
  const taps = 2 * reach;
  for (let i = 0; i < out.length; i++) {
    const position = i * step,
      centre = Math.floor(position),
      phase = (position - centre) * phases,
      row = Math.floor(phase),
      blend = phase - row;
    let a = row * taps,
      sum = 0;
    for (let read = centre; read < centre + taps; read++, a++) sum += source[read] * (rows[a] + (rows[a + taps] - rows[a]) * blend);
    out[i] = sum * narrow;
  }
}

function resamplePair(
  one: Float64Array,
  other: Float64Array,
  outOne: Float32Array,
  outOther: Float32Array,
  { step, narrow, reach, rows }: Kernel,
): void {
  const taps = 2 * reach;
  for (let i = 0; i < outOne.length; i++) {
    const position = i * step,
      centre = Math.floor(position),
      phase = (position - centre) * phases,
      row = Math.floor(phase),
      blend = phase - row;
    let a = row * taps,
      sumOne = 0,
      sumOther = 0;
    for (let read = centre; read < centre + taps; read++, a++) {
      const weight = rows[a] + (rows[a + taps] - rows[a]) * blend;
      sumOne += one[read] * weight;
      sumOther += other[read] * weight;
    }
    outOne[i] = sumOne * narrow;
    outOther[i] = sumOther * narrow;
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
