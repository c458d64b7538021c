const tapsPerSide = 24;

/** Every `factor`th sample behind a windowed-sinc low-pass (Hann window, cut at 0.42 of the new rate). `factor` is even. */
export function decimate(signal: Float32Array, factor: number): Float32Array {
  const half = Math.round((tapsPerSide * factor) / 2),
    cut = 0.84 / factor;
  // One half of the taps: the other is its mirror.
  const taps = Float64Array.from({ length: half + 1 }, (_, k) => {
    const sinc = k === 0 ? cut : Math.sin(Math.PI * cut * k) / (Math.PI * k);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * k) / (half + 1)));
  });
  const padded = new Float32Array(Math.max(1, signal.length) + 2 * half);
  padded.set(signal, half);
  const out = new Float32Array(Math.max(1, Math.ceil(signal.length / factor)));
  for (let i = 0; i < out.length; i++) {
    const centre = i * factor + half;
    let sum = padded[centre] * taps[0];
    for (let k = 1; k <= half; k++) sum += (padded[centre - k] + padded[centre + k]) * taps[k];
    out[i] = sum;
  }
  return out;
}
