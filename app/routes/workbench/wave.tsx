import { useCallback, useRef } from 'react';
import { framesPerBeat, projectRateHz } from '~core/units/time';
import type { ShownSound } from '~workers/bench-protocol';
import { Canvas } from '~/ui/canvas';
import { readToken } from '~/ui/theme';
import { moved, zoomed, type View } from './view';

export const waveHeight = 220;
const pictureHeight = 92,
  linesHeight = 18;

/** Frames of the beats of a sound, with whether a bar begins there. */
export function beatLines({
  tempoBpm,
  barBeats,
  startFrame,
  channels,
}: ShownSound): { readonly frame: number; readonly bar: number | null }[] {
  if (!tempoBpm) return [];
  const beat = framesPerBeat(tempoBpm, projectRateHz),
    count = Math.floor((channels[0].length - startFrame) / beat + 1e-6) + 1;
  return Array.from({ length: Math.min(4096, Math.max(0, count)) }, (_, k) => ({
    frame: startFrame + k * beat,
    bar: k % barBeats === 0 ? k / barBeats + 1 : null,
  }));
}

/** The sound in full size: waveform down to its samples, beats and bars, and its spectrum; what a step lays over it is given. */
export function Wave({
  shown,
  view,
  onView,
  withPicture,
  children,
}: {
  shown: ShownSound;
  view: View;
  onView: (view: View) => void;
  withPicture: boolean;
  children?: React.ReactNode;
}) {
  const total = shown.channels[0].length,
    box = useRef<HTMLDivElement>(null),
    draw = useCallback(
      (context: CanvasRenderingContext2D, width: number, height: number) => drawSound(context, width, height, shown, view),
      [shown, view],
    ),
    drawPicture = useCallback(
      (context: CanvasRenderingContext2D, width: number, height: number) => drawSpectrum(context, width, height, shown, view, total),
      [shown, view, total],
    );
  return (
    <div
      ref={box}
      className="panel relative overflow-hidden focus-visible:outline-2 focus-visible:outline-primary"
      tabIndex={0}
      role="group"
      aria-label={`Sound of ${(total / projectRateHz).toFixed(2)} seconds: plus and minus zoom, arrows move, 0 shows all`}
      onWheel={(event) => {
        const bounds = event.currentTarget.getBoundingClientRect(),
          at = (event.clientX - bounds.left) / bounds.width;
        if (event.shiftKey || Math.abs(event.deltaX) > Math.abs(event.deltaY))
          onView(moved(view, (event.deltaX || event.deltaY) / bounds.width, total));
        else onView(zoomed(view, Math.exp(-event.deltaY / 300), at, total));
      }}
      onKeyDown={(event) => {
        if (event.target !== event.currentTarget) return;
        const acts: Readonly<Record<string, () => View>> = {
            '+': () => zoomed(view, 1.5, 0.5, total),
            '-': () => zoomed(view, 1 / 1.5, 0.5, total),
            ArrowLeft: () => moved(view, -0.2, total),
            ArrowRight: () => moved(view, 0.2, total),
            '0': () => ({ fromFrame: 0, toFrame: total }),
          },
          act = acts[event.key];
        if (!act) return;
        event.preventDefault();
        event.stopPropagation();
        onView(act());
      }}
    >
      <div className="relative" style={{ height: waveHeight }}>
        <Canvas draw={draw} className="absolute inset-0 h-full w-full" label="Waveform with bars and beats" />
        {children}
      </div>
      {withPicture && (
        <div className="relative border-t border-base-300" style={{ height: pictureHeight }}>
          <Canvas draw={drawPicture} className="absolute inset-0 h-full w-full" label="Spectrum over time, low frequencies at the bottom" />
        </div>
      )}
    </div>
  );
}

function drawSound(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  shown: ShownSound,
  { fromFrame, toFrame }: View,
): void {
  context.clearRect(0, 0, width, height);
  const ink = readToken('--wave'),
    strong = readToken('--wave-strong'),
    text = readToken('--color-base-content'),
    perPixel = (toFrame - fromFrame) / width,
    x = (frame: number) => (frame - fromFrame) / perPixel,
    top = linesHeight,
    rows = shown.channels.length,
    rowHeight = (height - top) / rows;
  context.font = '11px Inter, sans-serif';
  let lastText = -100;
  for (const { frame, bar } of beatLines(shown)) {
    const at = x(frame);
    if (at < -1 || at > width + 1) continue;
    if (bar === null && framesPerBeat(shown.tempoBpm ?? 120, projectRateHz) / perPixel < 6) continue;
    context.fillStyle = bar === null ? ink : strong;
    context.globalAlpha = bar === null ? 0.35 : 0.8;
    context.fillRect(at, bar === null ? top : 0, 1, height);
    context.globalAlpha = 1;
    if (bar !== null && at - lastText > 26) {
      context.fillStyle = text;
      context.fillText(String(bar), at + 4, 12);
      lastText = at;
    }
  }
  context.fillStyle = ink;
  context.strokeStyle = ink;
  for (const [row, plane] of shown.channels.entries()) {
    const middle = top + rowHeight * (row + 0.5),
      half = (rowHeight / 2) * 0.94;
    if (perPixel <= 2) {
      context.beginPath();
      for (let frame = Math.max(0, Math.floor(fromFrame)); frame <= Math.min(plane.length - 1, toFrame + 1); frame++)
        context.lineTo(x(frame), middle - plane[frame] * half);
      context.lineWidth = 1.5;
      context.stroke();
      if (perPixel < 0.2)
        for (let frame = Math.max(0, Math.floor(fromFrame)); frame <= Math.min(plane.length - 1, toFrame + 1); frame++)
          context.fillRect(x(frame) - 1.5, middle - plane[frame] * half - 1.5, 3, 3);
    } else
      for (let column = 0; column < width; column++) {
        const from = Math.floor(fromFrame + column * perPixel),
          to = Math.min(plane.length, Math.floor(fromFrame + (column + 1) * perPixel) + 1);
        let low = 0,
          high = 0;
        // Of a long stretch every few samples are enough to be drawn by.
        const step = Math.max(1, Math.floor((to - from) / 400));
        for (let i = Math.max(0, from); i < to; i += step) {
          if (plane[i] < low) low = plane[i];
          if (plane[i] > high) high = plane[i];
        }
        context.fillRect(column, middle - Math.min(1, high) * half, 1, Math.max(1, (Math.min(1, high) - Math.max(-1, low)) * half));
      }
  }
}

function drawSpectrum(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  { picture: { columns, rows, bytes } }: ShownSound,
  { fromFrame, toFrame }: View,
  total: number,
): void {
  const image = new OffscreenCanvas(columns, rows),
    inner = image.getContext('2d');
  if (!inner) return;
  const data = inner.createImageData(columns, rows),
    [r, g, b] = rgbOf(context, readToken('--wave-strong'));
  for (let column = 0; column < columns; column++)
    for (let row = 0; row < rows; row++) {
      const at = ((rows - 1 - row) * columns + column) * 4,
        loud = bytes[column * rows + row];
      data.data.set([r, g, b, loud < 40 ? 0 : Math.min(255, (loud - 40) * 1.4)], at);
    }
  inner.putImageData(data, 0, 0);
  context.clearRect(0, 0, width, height);
  context.imageSmoothingEnabled = true;
  const from = (fromFrame / total) * columns;
  context.drawImage(image, from, 0, Math.max(1, ((toFrame - fromFrame) / total) * columns), rows, 0, 0, width, height);
}

/** A colour of the theme, whatever it is written as, in red, green and blue. */
function rgbOf(context: CanvasRenderingContext2D, colour: string): readonly [number, number, number] {
  context.save();
  context.fillStyle = colour;
  context.fillRect(0, 0, 1, 1);
  const [r, g, b] = context.getImageData(0, 0, 1, 1).data;
  context.restore();
  return [r, g, b];
}
