import { memo } from 'react';
import { useDraggable } from '@dnd-kit/core';
import { GripVertical } from 'lucide-react';
import type { TrackChanges } from '~core/arrangement/edit';
import type { Track } from '~core/arrangement/tree';
import { DragSlider } from '~/ui/drag-slider';
import { signed } from '~/ui/format';
import { Field } from './project-head';
import { headWidth, type TrackSize } from './measures';
import { TrackMenu, type TrackHands } from './track-menu';

interface Props {
  readonly track: Track;
  readonly size: TrackSize;
  readonly chosen: boolean;
  readonly hands: TrackHands;
}

/** What stands before a track's bars: its name, mute and solo, gain and pan, and a grip by which it is chosen and dragged. */
export const TrackHead = memo(function TrackHead({ track, size, chosen, hands }: Props) {
  const change = (changes: TrackChanges) => hands.change(track.id, changes),
    { setNodeRef, listeners, isDragging } = useDraggable({ id: `grip-${track.id}`, data: { trackId: track.id } });
  const grip = (
    <button
      ref={setNodeRef}
      {...listeners}
      className={`flex w-[26px] shrink-0 cursor-grab items-center rounded-sm ${chosen ? 'bg-primary text-primary-content' : ''} ${isDragging ? 'opacity-60' : ''}`}
      aria-label={`Track ${track.name}: choose it; Alt and arrows move it`}
      aria-pressed={chosen}
      title="Click: choose it. Drag: move it. Alt ↑ ↓: move it"
      onClick={(event) => hands.choose(track.id, event.shiftKey || event.ctrlKey || event.metaKey)}
      onKeyDown={(event) => {
        if (event.altKey && (event.key === 'ArrowUp' || event.key === 'ArrowDown')) hands.move(track.id, event.key === 'ArrowUp' ? -1 : 1);
        else if (event.key === ' ' || event.key === 'Enter') hands.choose(track.id, event.shiftKey);
        else return;
        event.preventDefault();
        event.stopPropagation();
      }}
    >
      <GripVertical className="size-3.5" aria-hidden="true" />
      <span className="h-full w-2 rounded-sm" style={{ background: `var(--track-${track.colour})` }} />
    </button>
  );
  const name = <Field plain label="Track name" width="w-full" value={track.name} onCommit={(text) => change({ name: text })} />,
    switches = (
      <>
        <button
          className={`btn btn-xs w-6 px-0 ${track.muted ? 'btn-neutral' : ''}`}
          aria-pressed={track.muted}
          aria-label={`Mute ${track.name}`}
          title="Mute"
          onClick={() => change({ muted: !track.muted })}
        >
          M
        </button>
        <button
          className={`btn btn-xs w-6 px-0 ${track.soloed ? 'btn-accent' : ''}`}
          aria-pressed={track.soloed}
          aria-label={`Solo ${track.name}`}
          title="Solo"
          onClick={() => change({ soloed: !track.soloed })}
        >
          S
        </button>
      </>
    ),
    menu = <TrackMenu track={track} size={size} hands={hands} />;
  const frame = 'sticky left-0 z-10 flex shrink-0 border-r border-base-300 bg-base-100 pr-2';
  if (size === 'small')
    return (
      <div className={`${frame} items-stretch gap-0.5 py-0.5`} style={{ width: headWidth }}>
        {grip}
        <div className="flex min-w-0 flex-1 items-center gap-1">
          {name}
          {switches}
          {menu}
        </div>
      </div>
    );
  return (
    <div className={`${frame} gap-0.5 py-1`} style={{ width: headWidth }}>
      {grip}
      <div className="flex min-w-0 flex-1 flex-col justify-between">
        <div className="flex items-center gap-1">
          {name}
          {switches}
        </div>
        <div className="flex items-center gap-1.5">
          <DragSlider
            className="range range-xs min-w-0 flex-1"
            min={-36}
            max={6}
            step={0.5}
            value={track.gainDb}
            aria-label={`Gain of ${track.name}, dB`}
            title={`Gain ${signed(track.gainDb, 1)} dB`}
            onDraft={(gainDb) => hands.hear(track.id, { gainDb })}
            onCommit={(gainDb) => change({ gainDb })}
          >
            {(gainDb) => <span className="w-9 text-right text-[0.79rem]">{signed(gainDb, 1)}</span>}
          </DragSlider>
          <DragSlider
            className="range range-xs w-10 shrink-0"
            min={-1}
            max={1}
            step={0.05}
            value={track.pan}
            aria-label={`Pan of ${track.name}`}
            title={`Pan ${track.pan === 0 ? 'centre' : `${Math.round(Math.abs(track.pan) * 100)} ${track.pan < 0 ? 'left' : 'right'}`}`}
            onDoubleClick={() => change({ pan: 0 })}
            onDraft={(pan) => hands.hear(track.id, { pan })}
            onCommit={(pan) => change({ pan })}
          />
          {menu}
        </div>
      </div>
    </div>
  );
});
