/**
 * An overview of a waveform: `columns` values 0–255, the largest absolute sample of each stretch on a square-root scale,
 * so that quiet passages stay visible at 24 pixels of height.
 */
export function overviewPeaks(channels: readonly Float32Array[], columns: number): Uint8Array {
  const frames = channels[0]?.length ?? 0;
  const peaks = new Uint8Array(columns);
  for (let column = 0; column < columns; column++) {
    const from = Math.floor((column * frames) / columns),
      to = Math.max(from + 1, Math.floor(((column + 1) * frames) / columns));
    let peak = 0;
    for (const plane of channels)
      for (let i = from; i < Math.min(to, frames); i++) {
        const size = Math.abs(plane[i]);
        if (size > peak) peak = size;
      }
    peaks[column] = Math.round(Math.sqrt(Math.min(1, peak)) * 255);
  }
  return peaks;
}
