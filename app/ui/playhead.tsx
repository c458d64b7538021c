import { useRef } from 'react';
import { useLiveCanvas } from './canvas';
import { readToken } from './theme';

const thickness = 2;

/** The moving line over a picture of sound; `at` gives its place, 0–1 of the width, or null for none. The parent must be positioned. */
export function Playhead({ at }: { at: () => number | null }) {
  const drawn = useRef<number | null>(null);
  const ref = useLiveCanvas(({ context, width, height, fresh }) => {
    const place = at(),
      x = place === null ? null : Math.round(place * width);
    if (!fresh && x === drawn.current) return;
    if (drawn.current !== null) context.clearRect(drawn.current - 1, 0, thickness + 2, height);
    if (x !== null) {
      context.fillStyle = readToken('--color-primary');
      context.fillRect(x, 0, thickness, height);
    }
    drawn.current = x;
  });
  return <canvas ref={ref} className="pointer-events-none absolute inset-0 size-full" aria-hidden="true" />;
}
