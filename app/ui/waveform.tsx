import { memo } from 'react';

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

/** Whether a beat, or a bar, of such a width begins in the column of so wide a step at a place; bars need not be whole beats. */
const begins = (at: number, every: number, step: number): boolean => every > 0 && every !== Infinity && (at + 1e-6) % every < step;

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
  // All of one ink in one go: a thousand small fills cost several times as much.
  const strong: (readonly [left: number, tall: number])[] = [];
  context.beginPath();
  for (let i = 0; i < count; i++) {
    const left = i * step;
    const newBeat = begins(left, perBeat, step),
      downbeat = begins(left, perBeat * barBeats, step);
    if (newBeat && !downbeat && perBeat > step * 4) continue;
    const from = Math.floor((i / count) * overview.length),
      to = Math.max(from + 1, Math.floor(((i + 1) / count) * overview.length));
    let peak = 0;
    for (let k = from; k < to; k++) peak = Math.max(peak, overview[k] ?? 0);
    const size = Math.max(1, (peak / 255) ** 1.4 * height * 0.94);
    if (downbeat) strong.push([left, Math.max(size, height * 0.7)]);
    else context.rect(x + left, middle - size / 2, bar, size);
  }
  context.fillStyle = ink;
  context.fill();
  context.fillStyle = strongInk;
  for (const [left, tall] of strong) context.fillRect(x + left, middle - tall / 2, bar, tall);
}

const columnCount = 66,
  listHeight = 32;

/** The bars of a waveform as an SVG path of `columnCount` columns, two units wide each: plain ones and downbeats. */
export function wavePaths(overview: Uint8Array, beats: number, barBeats: number): { plain: string; strong: string } {
  const perBeat = beats > 0 ? columnCount / beats : Infinity;
  let plain = '',
    strong = '';
  for (let i = 0; i < columnCount; i++) {
    const newBeat = begins(i, perBeat, 1),
      downbeat = begins(i, perBeat * barBeats, 1);
    if (newBeat && !downbeat && perBeat > 4) continue;
    const from = Math.floor((i / columnCount) * overview.length),
      to = Math.max(from + 1, Math.floor(((i + 1) / columnCount) * overview.length));
    let peak = 0;
    for (let k = from; k < to; k++) peak = Math.max(peak, overview[k] ?? 0);
    const size = Math.max(1, (peak / 255) ** 1.4 * listHeight * 0.94),
      half = Math.round(downbeat ? Math.max(size, listHeight * 0.7) : size) / 2;
    const bar = `M${i * 2} ${listHeight / 2 - half}v${2 * half}h1v${-2 * half}z`;
    if (downbeat) strong += bar;
    else plain += bar;
  }
  return { plain, strong };
}

/**
 * The waveform of a loop in a list. Vector instead of canvas: a list that scrolls makes and drops three rows a frame, and a
 * canvas each costs a layer, a layout and a painting; a path is there with the first page and follows the theme by itself.
 */
export const Waveform = memo(function Waveform({
  overview,
  beats,
  barBeats,
  className,
  ink = '--wave',
}: {
  overview: string;
  beats: number;
  barBeats: number;
  className?: string;
  ink?: string;
}) {
  const { plain, strong } = wavePaths(decodeOverview(overview), beats, barBeats);
  return (
    <svg
      viewBox={`0 0 ${columnCount * 2} ${listHeight}`}
      preserveAspectRatio="none"
      shapeRendering="crispEdges"
      className={className}
      aria-hidden="true"
    >
      <path d={plain} fill={`var(${ink})`} />
      <path d={strong} fill="var(--wave-strong)" />
    </svg>
  );
});
