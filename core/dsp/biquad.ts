/** Coefficients of H(z) = (b0 + b1 z⁻¹ + b2 z⁻²) / (1 + a1 z⁻¹ + a2 z⁻²). */
export interface Biquad {
  readonly b0: number;
  readonly b1: number;
  readonly b2: number;
  readonly a1: number;
  readonly a2: number;
}

/** Runs a filter over a signal into a new array, from rest. */
export function filterSignal(signal: Float32Array | Float64Array, filter: Biquad): Float64Array {
  const out = new Float64Array(signal.length);
  const { b0, b1, b2, a1, a2 } = filter;
  let x1 = 0,
    x2 = 0,
    y1 = 0,
    y2 = 0;
  for (let i = 0; i < signal.length; i++) {
    const x = signal[i];
    const y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
    x2 = x1;
    x1 = x;
    y2 = y1;
    y1 = y;
    out[i] = y;
  }
  return out;
}

/** Second-order low or high pass, Butterworth by default. Robert Bristow-Johnson, Audio EQ Cookbook. */
export function passFilter(kind: 'low' | 'high', cutoffHz: number, sampleRateHz: number, q = Math.SQRT1_2): Biquad {
  const w = (2 * Math.PI * Math.min(cutoffHz, sampleRateHz * 0.49)) / sampleRateHz;
  const cos = Math.cos(w),
    alpha = Math.sin(w) / (2 * q),
    a0 = 1 + alpha;
  const edge = kind === 'low' ? (1 - cos) / 2 : (1 + cos) / 2;
  return { b0: edge / a0, b1: ((kind === 'low' ? 2 : -2) * edge) / a0, b2: edge / a0, a1: (-2 * cos) / a0, a2: (1 - alpha) / a0 };
}

/** Band pass with unity gain at the centre (same source). */
export function bandFilter(centreHz: number, q: number, sampleRateHz: number): Biquad {
  const w = (2 * Math.PI * Math.min(centreHz, sampleRateHz * 0.49)) / sampleRateHz;
  const alpha = Math.sin(w) / (2 * q),
    a0 = 1 + alpha;
  return { b0: alpha / a0, b1: 0, b2: -alpha / a0, a1: (-2 * Math.cos(w)) / a0, a2: (1 - alpha) / a0 };
}
