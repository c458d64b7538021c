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
  const narrow = Math.min(1, 1 / step) * 0.98; // 2 % below the lower Nyquist, where the kernel's slope ends
  const reach = Math.ceil(tapsPerSide / narrow);
  const table = kernel();
  const scale = narrow * tableSteps,
    lastIndex = tapsPerSide * tableSteps;
  for (let i = 0; i < targetFrames; i++) {
    const position = i * step;
    const centre = Math.floor(position);
    let sum = 0;
    const first = centre - reach + 1;
    let read = ((first % sourceFrames) + sourceFrames) % sourceFrames;
    let x = (position - first) * scale;
    for (let tap = 0; tap < 2 * reach; tap++, x -= scale) {
      const distance = x < 0 ? -x : x;
      const index = distance | 0;
      if (index < lastIndex) sum += signal[read] * (table[index] + (table[index + 1] - table[index]) * (distance - index));
      if (++read === sourceFrames) read = 0;
    }
    out[i] = sum * narrow;
  }
  return out;
}
