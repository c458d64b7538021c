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
export function resampleCyclic(signal: Float32Array, targetFrames: number): Float32Array {
  assertPositive('targetFrames', targetFrames);
  const sourceFrames = signal.length;
  const out = new Float32Array(targetFrames);
  if (sourceFrames === 0) return out;
  if (sourceFrames === targetFrames) {
    out.set(signal);
    return out;
  }
  const step = sourceFrames / targetFrames;
  const narrow = narrowing(step);
  const reach = Math.ceil(tapsPerSide / narrow),
    taps = 2 * reach,
    rows = phaseRows(narrow, reach);
  // The loop with its own end in front and its own start behind, so that reading never has to turn round.
  const padded = new Float32Array(sourceFrames + taps + 1);
  for (let i = 0; i < padded.length; i++) padded[i] = signal[(((i - reach + 1) % sourceFrames) + sourceFrames) % sourceFrames];
  for (let i = 0; i < targetFrames; i++) {
    const position = i * step;
    const centre = Math.floor(position);
    const phase = (position - centre) * phases,
      row = Math.floor(phase),
      blend = phase - row;
    let a = row * taps,
      b = a + taps,
      here = 0,
      there = 0;
    for (let read = centre; read < centre + taps; read++, a++, b++) {
      const value = padded[read];
      here += value * rows[a];
      there += value * rows[b];
    }
    out[i] = (here + (there - here) * blend) * narrow;
  }
  return out;
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
