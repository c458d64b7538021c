import { useRef } from 'react';
import { useFrame } from '~/audio/hooks';

/**
 * The moving line over a picture of sound; `at` gives its place, 0–1 of the width, or null for none. The line is the left edge of a box as
 * wide as the picture, moved in percent: so nothing has to be measured, which would force a layout in every frame of the screen.
 * The parent must clip (`overflow-hidden`) and be positioned.
 */
export function Playhead({ at }: { at: () => number | null }) {
  const line = useRef<HTMLDivElement>(null),
    shown = useRef<number | null>(null);
  useFrame(() => {
    const place = at();
    if (!line.current || place === shown.current) return;
    if ((place === null) !== (shown.current === null)) line.current.hidden = place === null;
    if (place !== null) line.current.style.transform = `translateX(${place * 100}%)`;
    shown.current = place;
  });
  return <div ref={line} hidden className="pointer-events-none absolute inset-0 border-l-2 border-primary" aria-hidden="true" />;
}
