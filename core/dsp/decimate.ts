const tapsPerSide = 24;

/** Every `factor`th sample behind a windowed-sinc low-pass (Hann window, cut at 0.42 of the new rate). */
export function decimate(signal: Float32Array, factor: number): Float32Array {
  const half = tapsPerSide * factor * 0.5,
    cut = 0.84 / factor;
  const taps = Float32Array.from({ length: 2 * half + 1 }, (_, k) => {
    const x = k - half,
      sinc = x === 0 ? cut : Math.sin(Math.PI * cut * x) / (Math.PI * x);
    return sinc * (0.5 + 0.5 * Math.cos((Math.PI * x) / (half + 1)));
  });
  const out = new Float32Array(Math.max(1, Math.ceil(signal.length / factor)));
  for (let i = 0; i < out.length; i++) {
    const centre = i * factor,
      from = Math.max(0, centre - half),
      to = Math.min(signal.length - 1, centre + half);
    let sum = 0;
    for (let k = from; k <= to; k++) sum += signal[k] * taps[k - centre + half];
    out[i] = sum;
  }
  return out;
}
