import { useCallback, useRef, useState } from 'react';
import { useDroppable } from '@dnd-kit/core';
import type { Rub } from '~core/arrangement/harmony/clash-meter';
import { audibleTracks, projectEndBeat, type Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useEngineState } from '~/audio/hooks';
import { Canvas } from '~/ui/canvas';
import { useRubs } from '~/ui/harmony/rubs';
import { Playhead } from '~/ui/playhead';
import { readToken } from '~/ui/theme';

const sectionHeight = 14;

/** Sections as blocks, chords as letters, a lane a track, the playhead. Click to move it; drop a loop on a bar. */
export function Strip({ project }: { project: Project }) {
  const engine = useEngine(),
    rubs = useRubs(),
    box = useRef<HTMLDivElement>(null);
  const barBeats = beatsPerBar(project.meter),
    totalBeats = Math.max(8 * barBeats, Math.ceil((projectEndBeat(project) + 4 * barBeats) / (4 * barBeats)) * 4 * barBeats);
  const beatAt = (clientX: number) => {
    const rect = box.current?.getBoundingClientRect();
    return rect ? Math.max(0, Math.floor((((clientX - rect.left) / rect.width) * totalBeats) / barBeats) * barBeats) : 0;
  };
  const range = useEngineState((state) => state.range),
    [marking, setMarking] = useState<{ from: number; to: number } | null>(null);
  const shown = marking ? { startBeat: Math.min(marking.from, marking.to), endBeat: Math.max(marking.from, marking.to) + barBeats } : range;
  const { setNodeRef, isOver } = useDroppable({ id: 'ribbon', data: { beatAt } });
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) =>
      drawStrip(context, width, height, project, rubs, totalBeats, barBeats),
    [project, rubs, totalBeats, barBeats],
  );
  return (
    <div
      ref={(node) => {
        box.current = node;
        setNodeRef(node);
      }}
      className={`relative min-w-0 flex-1 cursor-pointer overflow-hidden rounded-sm border bg-base-100 ${isOver ? 'border-primary' : 'border-base-300'}`}
      role="slider"
      tabIndex={0}
      aria-label="Place in the project, in bars"
      aria-valuemin={1}
      aria-valuemax={totalBeats / barBeats}
      aria-valuenow={1}
      aria-valuetext={`${totalBeats / barBeats} bars shown`}
      title="Click: go there. Shift and drag: repeat a range. Double click: repeat all again."
      onClick={(event) => {
        if (!event.shiftKey) engine.seek(beatAt(event.clientX));
      }}
      onDoubleClick={() => engine.setRange(null)}
      onPointerDown={(event) => {
        if (!event.shiftKey) return;
        event.currentTarget.setPointerCapture(event.pointerId);
        const at = beatAt(event.clientX);
        setMarking({ from: at, to: at });
      }}
      onPointerMove={(event) => {
        if (marking) setMarking({ ...marking, to: beatAt(event.clientX) });
      }}
      onPointerUp={() => {
        if (marking && shown) engine.setRange(shown);
        setMarking(null);
      }}
      onKeyDown={(event) => {
        const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0;
        if (event.key === '[' || event.key === ']') {
          const at = Math.round(engine.positionBeat() / barBeats) * barBeats,
            now = range ?? { startBeat: 0, endBeat: totalBeats };
          engine.setRange(event.key === '[' ? { ...now, startBeat: at } : { ...now, endBeat: at });
        } else if (step) {
          event.preventDefault();
          engine.seek(Math.max(0, (Math.round(engine.positionBeat() / barBeats) + step) * barBeats));
        }
      }}
    >
      <Canvas draw={draw} className="absolute inset-0 size-full" />
      {shown && (
        <div
          className="pointer-events-none absolute bottom-0 h-1.5 border-x-2 border-b-2 border-primary"
          style={{ left: `${(shown.startBeat / totalBeats) * 100}%`, width: `${((shown.endBeat - shown.startBeat) / totalBeats) * 100}%` }}
          aria-hidden="true"
        />
      )}
      <Playhead at={() => engine.positionBeat() / totalBeats} />
    </div>
  );
}

function drawStrip(
  context: CanvasRenderingContext2D,
  width: number,
  height: number,
  project: Project,
  rubs: readonly Rub[],
  totalBeats: number,
  barBeats: number,
): void {
  const x = (beat: number) => (beat / totalBeats) * width,
    ink = readToken('--wave-strong'),
    faint = readToken('--grid'),
    strong = readToken('--grid-strong');
  for (let beat = 0; beat <= totalBeats; beat += barBeats) {
    const four = (beat / barBeats) % 4 === 0;
    context.fillStyle = four ? strong : faint;
    context.fillRect(Math.round(x(beat)), four ? 0 : sectionHeight, 1, height);
  }
  context.font = '600 11px "Inter Variable", sans-serif';
  context.textBaseline = 'middle';
  for (const section of project.sections) {
    const left = x(section.startBeat),
      wide = x(section.lengthBeats);
    context.fillStyle = faint;
    context.fillRect(left + 1, 0, wide - 2, sectionHeight);
    context.fillStyle = ink;
    context.save();
    context.beginPath();
    context.rect(left, 0, wide - 4, sectionHeight);
    context.clip();
    context.fillText(section.name, left + 5, sectionHeight / 2 + 0.5);
    context.restore();
  }
  const audible = new Set(audibleTracks(project).map((track) => track.id)),
    chordRow = project.chords.length ? 12 : 0,
    tracks = project.tracks.filter(({ setAside }) => !setAside),
    lane = (height - sectionHeight - chordRow - 2) / Math.max(1, tracks.length);
  tracks.forEach((track, row) => {
    context.globalAlpha = audible.has(track.id) ? 1 : 0.3;
    context.fillStyle = readToken(`--track-${track.colour}`);
    for (const clip of track.clips)
      context.fillRect(
        x(clip.startBeat) + 0.5,
        sectionHeight + 1 + row * lane,
        Math.max(1, x(clip.lengthBeats) - 1),
        lane > 3 ? lane - 1.5 : lane * 0.7,
      );
  });
  context.globalAlpha = 1;
  // Where notes rub, a thin line under the sections.
  context.fillStyle = readToken('--color-error');
  for (const { startBeat, endBeat } of rubs)
    context.fillRect(x(startBeat), sectionHeight - 2, Math.max(2, x(endBeat - startBeat) - 1), 2.5);
  context.fillStyle = readToken('--wave');
  context.font = '500 11px "Inter Variable", sans-serif';
  const placed = project.chords.map(({ symbol, startBeat }) => ({
      symbol,
      startBeat,
      left: x(startBeat) + 3,
      width: context.measureText(symbol).width + 5,
    })),
    isCrowded = placed.some(({ left, width }, k) => left + width > (placed[k + 1]?.left ?? Infinity)),
    // Where there is no room for all, every other one would tell of another harmony: then only what a section begins with.
    begins = new Set(project.sections.map(({ startBeat }) => startBeat));
  let free = -1;
  for (const { symbol, startBeat, left, width } of placed) {
    if (left < free || (isCrowded && !begins.has(startBeat))) continue;
    context.fillText(symbol, left, height - 7);
    free = left + width;
  }
}
