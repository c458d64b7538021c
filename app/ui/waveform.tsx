import { useCallback } from 'react';
import { readToken } from './theme';
import { Canvas } from './canvas';

/** Overview bytes from base64. */
export function decodeOverview(base64: string): Uint8Array {
  const text = atob(base64),
    bytes = new Uint8Array(text.length);
  for (let i = 0; i < text.length; i++) bytes[i] = text.charCodeAt(i);
  return bytes;
}

export interface WaveOptions {
  readonly overview: Uint8Array;
  /** Beats in the drawn stretch and in a bar; 0 beats draws no grid. */
  readonly beats: number;
  readonly barBeats: number;
  readonly ink: string;
  readonly strongInk: string;
}

/** Fine vertical bars grouped by beat: a little air at each beat, taller and darker ink at the downbeats. */
export function drawWave(
  context: CanvasRenderingContext2D,
  x: number,
  y: number,
  width: number,
  height: number,
  { overview, beats, barBeats, ink, strongInk }: WaveOptions,
): void {
  const step = width > 400 ? 3 : 2,
    bar = step - 1,
    count = Math.floor(width / step),
    middle = y + height / 2;
  const perBeat = beats > 0 ? width / beats : Infinity;
  for (let i = 0; i < count; i++) {
    const left = i * step;
    const beat = perBeat === Infinity ? 1 : Math.floor(left / perBeat + 1e-6);
    const newBeat = perBeat !== Infinity && left % perBeat < step,
      downbeat = newBeat && barBeats > 0 && beat % barBeats === 0;
    if (newBeat && !downbeat && perBeat > step * 4) continue;
    const from = Math.floor((i / count) * overview.length),
      to = Math.max(from + 1, Math.floor(((i + 1) / count) * overview.length));
    let peak = 0;
    for (let k = from; k < to; k++) peak = Math.max(peak, overview[k] ?? 0);
    const size = Math.max(1, (peak / 255) ** 1.4 * height * 0.94);
    context.fillStyle = downbeat ? strongInk : ink;
    const tall = downbeat ? Math.max(size, height * 0.7) : size;
    context.fillRect(x + left, middle - tall / 2, bar, tall);
  }
}

/** The waveform of a loop in a list. */
export function Waveform({
  overview,
  beats,
  barBeats,
  className,
  label,
  ink = '--wave',
}: {
  overview: string;
  beats: number;
  barBeats: number;
  className?: string;
  label?: string;
  ink?: string;
}) {
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) =>
      drawWave(context, 0, 0, width, height, {
        overview: decodeOverview(overview),
        beats,
        barBeats,
        ink: readToken(ink),
        strongInk: readToken('--wave-strong'),
      }),
    [overview, beats, barBeats, ink],
  );
  return <Canvas draw={draw} className={className} label={label} />;
}
