import { useState } from 'react';
import { noteName } from '~core/theory/key';
import { moveOfNote, type LineStep } from '~core/workbench/retune';
import { projectRateHz } from '~core/units/time';
import type { ShownSound } from '~workers/bench-protocol';
import { signed } from '~/ui/format';
import { waveHeight } from './wave';
import type { View } from './view';

/** The line over note lanes: the pitch as it was sung, and each note as a bar that shows how far off it is; dragged, or moved by keys. */
export function LineNotes({
  shown,
  step,
  view,
  onMove,
}: {
  shown: ShownSound;
  step: LineStep;
  view: View;
  onMove: (index: number, semitones: number | null) => void;
}) {
  const [drag, setDrag] = useState<{ readonly index: number; readonly fromY: number; readonly by: number } | null>(null),
    { line } = shown;
  if (!line || line.notes.length === 0) return null;
  const targets = line.notes.map((note, index) => {
      const { held, by } = moveOfNote(note, index, { ...step, strength: 1 });
      return { note, held, target: Math.round(held + by) };
    }),
    low = Math.min(...targets.map(({ held, target }) => Math.min(held, target))) - 2,
    high = Math.max(...targets.map(({ held, target }) => Math.max(held, target))) + 2,
    lane = waveHeight / (high - low),
    y = (pitch: number) => waveHeight - (pitch - low) * lane,
    x = (seconds: number) => ((seconds * projectRateHz - view.fromFrame) / (view.toFrame - view.fromFrame)) * 1000,
    sung: string[] = [];
  let pen = false;
  line.pitches.forEach((pitch, k) => {
    if (pitch > low && pitch < high) sung.push(`${pen ? 'L' : 'M'}${x(k * line.hopSeconds).toFixed(1)} ${y(pitch).toFixed(1)}`);
    pen = pitch > low && pitch < high;
  });
  return (
    <div className="absolute inset-0 bg-base-100/85">
      <svg className="absolute inset-0 h-full w-full" viewBox={`0 0 1000 ${waveHeight}`} preserveAspectRatio="none" aria-hidden="true">
        {Array.from({ length: Math.ceil(high - low) }, (_, k) => Math.ceil(low) + k).map((pitch) => (
          <rect
            key={pitch}
            x={0}
            width={1000}
            y={y(pitch + 0.5)}
            height={lane}
            fill="var(--color-base-content)"
            fillOpacity={[1, 3, 6, 8, 10].includes(((pitch % 12) + 12) % 12) ? 0.07 : 0.02}
          />
        ))}
        <path d={sung.join('')} fill="none" stroke="var(--color-base-content)" strokeWidth={1.5} vectorEffect="non-scaling-stroke" />
      </svg>
      {targets.map(({ note, held, target }, index) => {
        const left = x(note.startSeconds) / 10,
          width = (x(note.startSeconds + note.lengthSeconds) - x(note.startSeconds)) / 10,
          by = drag?.index === index ? drag.by : 0,
          hand = step.moves[index];
        if (left > 100 || left + width < 0) return null;
        return (
          <div
            key={index}
            role="slider"
            tabIndex={0}
            aria-label={`Note ${index + 1}`}
            aria-valuenow={target}
            aria-valuetext={`${noteName(target)}, sung ${Math.round((held - Math.round(held)) * 100)} cents off ${noteName(Math.round(held))}`}
            className={`absolute cursor-ns-resize touch-none rounded-sm border text-[0.79rem] leading-none focus-visible:outline-2 focus-visible:outline-primary ${hand === undefined ? 'border-primary bg-primary/35' : 'border-accent bg-accent/50'}`}
            style={{ left: `${left}%`, width: `${width}%`, top: y(target + by + 0.5), height: Math.max(11, lane) }}
            title={`${noteName(target)}: sung ${signed(Math.round((held - target) * 100))} cents off; drag, or arrow keys`}
            onPointerDown={(event) => {
              event.stopPropagation();
              event.currentTarget.setPointerCapture(event.pointerId);
              setDrag({ index, fromY: event.clientY, by: 0 });
            }}
            onPointerMove={(event) => drag && setDrag({ ...drag, by: Math.round((drag.fromY - event.clientY) / lane) })}
            onPointerUp={() => {
              if (drag && drag.by !== 0) onMove(index, (hand ?? 0) + drag.by);
              setDrag(null);
            }}
            onPointerCancel={() => setDrag(null)}
            onKeyDown={(event) => {
              const way = event.key === 'ArrowUp' ? 1 : event.key === 'ArrowDown' ? -1 : 0;
              if (way === 0 && event.key !== 'Delete') return;
              event.preventDefault();
              event.stopPropagation();
              onMove(index, way === 0 ? null : (hand ?? 0) + way);
            }}
          >
            {width > 3 && <span className="pointer-events-none absolute -top-3.5 left-0.5">{noteName(target + by)}</span>}
          </div>
        );
      })}
    </div>
  );
}
