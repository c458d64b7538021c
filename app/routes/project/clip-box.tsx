import { useCallback, useState } from 'react';
import { toast } from '~/ui/toast';
import { fitClip } from '~core/arrangement/plan';
import { loopIdOf, type Clip, type Project, type Track } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { Canvas } from '~/ui/canvas';
import { useProjectStore, useProject } from '~/ui/project-store';
import { readToken } from '~/ui/theme';
import { decodeOverview, drawWave } from '~/ui/waveform';
import { trackHeight } from './measures';
import type { ClipActs } from './use-acts';

interface Drag {
  readonly kind: 'move' | 'end';
  readonly fromX: number;
  readonly fromY: number;
  readonly deltaBeats: number;
  readonly deltaY: number;
}
interface Props {
  readonly clip: Clip;
  readonly track: Track;
  readonly project: Project;
  readonly barPixels: number;
  readonly selected: boolean;
  readonly acts: ClipActs;
  readonly onChoose: (adds?: boolean) => void;
}

/** A clip on its bars: drag to move, drag its end to repeat or shorten it. Snaps to bars, with Alt to beats. */
export function ClipBox({ clip, track, project, barPixels, selected, acts, onChoose }: Props) {
  const projectStore = useProjectStore(),
    row = useProject((state) => state.loops.get(loopIdOf(clip))),
    [drag, setDrag] = useState<Drag | null>(null);
  const bar = beatsPerBar(project.meter),
    beatPixels = barPixels / bar;
  const startBeat = drag?.kind === 'move' ? Math.max(0, clip.startBeat + drag.deltaBeats) : clip.startBeat,
    lengthBeats = drag?.kind === 'end' ? Math.max(1, clip.lengthBeats + drag.deltaBeats) : clip.lengthBeats;
  const cycleBeats = row ? fitClip(clip, row.source, project).cycleBeats : lengthBeats;
  const set = (changes: Partial<Clip>, trackId = track.id) => {
    const refused = projectStore.edit({ kind: 'set-clip', clipId: clip.id, trackId, changes });
    if (refused) toast.error(refused);
  };
  const draw = useCallback(
    (context: CanvasRenderingContext2D, width: number, height: number) => {
      if (!row) return;
      const overview = decodeOverview(row.overview),
        ink = readToken(`--track-${track.colour}`),
        cycle = cycleBeats * beatPixels,
        offset = (clip.offsetBeats % cycleBeats) * beatPixels;
      for (let left = -offset; left < width; left += cycle) {
        drawWave(context, left, 2, Math.min(cycle, 4000), height - 4, { overview, beats: 0, barBeats: 0, ink, strongInk: ink });
        // The seam, so that one sees where it repeats.
        if (left > 0) {
          context.fillStyle = readToken('--wave-strong');
          context.fillRect(Math.round(left), 0, 1, height);
        }
        if (row.source.kind === 'one-shot' || row.source.kind === 'phrase') break;
      }
    },
    [row, cycleBeats, beatPixels, clip.offsetBeats, track.colour],
  );
  const onPointerDown = (event: React.PointerEvent<HTMLDivElement>) => {
    if (event.button !== 0) return;
    onChoose(event.shiftKey || event.ctrlKey || event.metaKey);
    event.currentTarget.focus();
    event.currentTarget.setPointerCapture(event.pointerId);
    const rect = event.currentTarget.getBoundingClientRect();
    setDrag({
      kind: rect.right - event.clientX < 10 ? 'end' : 'move',
      fromX: event.clientX,
      fromY: event.clientY,
      deltaBeats: 0,
      deltaY: 0,
    });
  };
  const onPointerMove = (event: React.PointerEvent) => {
    if (!drag) return;
    const grid = event.altKey ? 1 : bar;
    setDrag({
      ...drag,
      deltaBeats: Math.round((event.clientX - drag.fromX) / beatPixels / grid) * grid,
      deltaY: event.clientY - drag.fromY,
    });
  };
  const onPointerUp = () => {
    if (!drag) return;
    setDrag(null);
    const rows = drag.kind === 'move' ? Math.round(drag.deltaY / trackHeight) : 0,
      index = project.tracks.findIndex((each) => each.id === track.id);
    const target = project.tracks[Math.max(0, Math.min(project.tracks.length - 1, index + rows))];
    if (drag.kind === 'end' && lengthBeats !== clip.lengthBeats) set({ lengthBeats });
    else if (drag.kind === 'move' && (startBeat !== clip.startBeat || target.id !== track.id))
      acts.move(startBeat - clip.startBeat, project.tracks.indexOf(target) - index);
  };
  const onKeyDown = (event: React.KeyboardEvent) => {
    const step = event.key === 'ArrowRight' ? 1 : event.key === 'ArrowLeft' ? -1 : 0,
      grid = event.altKey ? 1 : bar;
    const pressed = event.key.toLowerCase();
    if (step && event.shiftKey && event.altKey) acts.trimStart(step * 1);
    else if (step && event.shiftKey) set({ lengthBeats: Math.max(1, clip.lengthBeats + step * grid) });
    else if (step && (event.ctrlKey || event.metaKey)) acts.slip(step);
    else if (step) acts.move(step * grid, 0);
    else if (event.key === 'Delete' || event.key === 'Backspace') acts.remove();
    else if (pressed === 'd' && (event.ctrlKey || event.metaKey)) acts.copyBehind();
    else if (event.ctrlKey || event.metaKey || event.altKey) return;
    else if (pressed === 's') acts.cutHere();
    else if (pressed === 'e') (event.shiftKey ? acts.toProjectEnd : acts.toSectionEnd)();
    else if (pressed === 'r') acts.onceMore();
    else if (pressed === 'j') acts.join();
    else if (event.key === 'Enter') onChoose();
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const from = clip.startBeat / bar + 1,
    until = (clip.startBeat + clip.lengthBeats) / bar;
  return (
    <div
      role="button"
      tabIndex={0}
      data-clip={clip.id}
      aria-label={`${row?.title ?? 'Clip'}, bars ${from} to ${until}. Arrows move it, Shift and arrows change its length, S cuts it at the playhead, E repeats it to the end of the section.`}
      aria-pressed={selected}
      className={`absolute inset-y-1 touch-none overflow-hidden rounded-sm border bg-base-200 ${selected ? 'border-primary outline-1 outline-primary' : ''} ${drag ? 'z-10 cursor-grabbing opacity-90' : 'cursor-grab'}`}
      style={{
        left: startBeat * beatPixels,
        width: Math.max(4, lengthBeats * beatPixels - 1),
        borderColor: selected ? undefined : `var(--track-${track.colour})`,
        transform:
          drag?.kind === 'move' && Math.abs(drag.deltaY) > trackHeight / 2
            ? `translateY(${Math.round(drag.deltaY / trackHeight) * trackHeight}px)`
            : undefined,
      }}
      onPointerDown={onPointerDown}
      onPointerMove={onPointerMove}
      onPointerUp={onPointerUp}
      onPointerCancel={() => setDrag(null)}
      onKeyDown={onKeyDown}
      onFocus={() => onChoose()}
    >
      <Canvas draw={draw} className="absolute inset-x-0 bottom-0 top-4 h-[calc(100%-1rem)] w-full" />
      <span className="absolute inset-x-1.5 top-0 truncate text-[0.79rem] font-medium leading-4">
        {row?.title ?? 'loading …'}
        {clip.shiftSemitones !== 0 && ` (${clip.shiftSemitones > 0 ? '+' : '−'}${Math.abs(clip.shiftSemitones)})`}
      </span>
      <span className="absolute inset-y-0 right-0 w-2 cursor-ew-resize" aria-hidden="true" />
    </div>
  );
}
