import { useState } from 'react';
import { projectRateHz } from '~core/units/time';
import type { View } from './view';

const millisecond = projectRateHz / 1000;

/** A place in the sound that can be dragged, and moved by keys: a millisecond, ten with Shift. */
export function Handle({
  frame,
  view,
  label,
  snap = (wanted) => wanted,
  onMove,
  className = 'w-2 bg-primary',
  children,
}: {
  frame: number;
  view: View;
  label: string;
  /** Where a dragged handle goes instead; Alt held suspends it. */
  snap?: (frame: number) => number;
  /** `goesOn`: of the same drag as the last. */
  onMove: (frame: number, goesOn: boolean) => void;
  className?: string;
  children?: React.ReactNode;
}) {
  const [drag, setDrag] = useState<{ readonly fromX: number; readonly frame: number; readonly began: boolean } | null>(null),
    at = (frame - view.fromFrame) / (view.toFrame - view.fromFrame);
  if (at < -0.001 || at > 1.001) return null;
  return (
    <div
      role="slider"
      tabIndex={0}
      aria-label={label}
      aria-valuenow={Math.round(frame)}
      aria-valuetext={`${(frame / projectRateHz).toFixed(3)} seconds`}
      className={`absolute inset-y-0 z-10 -translate-x-1/2 cursor-ew-resize touch-none focus-visible:outline-2 focus-visible:outline-primary ${className}`}
      style={{ left: `${at * 100}%` }}
      title={`${label}: drag, or arrow keys`}
      onPointerDown={(event) => {
        event.stopPropagation();
        event.currentTarget.setPointerCapture(event.pointerId);
        setDrag({ fromX: event.clientX, frame, began: false });
      }}
      onPointerMove={(event) => {
        if (!drag) return;
        const width = event.currentTarget.parentElement?.clientWidth ?? 1,
          wanted = drag.frame + ((event.clientX - drag.fromX) / width) * (view.toFrame - view.fromFrame);
        onMove(Math.max(0, Math.round(event.altKey ? wanted : snap(wanted))), drag.began);
        if (!drag.began) setDrag({ ...drag, began: true });
      }}
      onPointerUp={() => setDrag(null)}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={(event) => {
        const way = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (way === 0) return;
        event.preventDefault();
        event.stopPropagation();
        onMove(Math.max(0, Math.round(frame + way * millisecond * (event.shiftKey ? 10 : 1))), false);
      }}
    >
      {children}
    </div>
  );
}
