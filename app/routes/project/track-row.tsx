import { useRef } from 'react';
import { useDroppable } from '@dnd-kit/core';
import type { Pattern } from '~core/arrangement/pattern/pattern';
import type { Setting } from '~core/arrangement/plan';
import type { Track } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import type { ClipHands } from './clip-box';
import { Lane } from './lane';
import { trackHeights } from './measures';
import { TrackHead } from './track-head';
import type { TrackHands } from './track-menu';
import { sizeOf, type Look } from './timeline-view';

interface Props {
  readonly track: Track;
  readonly loops: ReadonlyMap<number, WholeLoop>;
  readonly patterns: readonly Pattern[];
  readonly setting: Setting;
  readonly audible: boolean;
  readonly barBeats: number;
  readonly width: number;
  readonly look: Look;
  readonly stepBeats: number | null;
  readonly isChosen: boolean;
  readonly chosen: ReadonlySet<string>;
  readonly heldBy: ReadonlyMap<string, string>;
  readonly clipHands: ClipHands;
  readonly trackHands: TrackHands;
  readonly onChooseNone: () => void;
}

/** A track: its head, and its lane of clips, onto which loops and other tracks can be dropped. */
export function TrackRow({
  track,
  loops,
  patterns,
  setting,
  audible,
  barBeats,
  width,
  look,
  stepBeats,
  isChosen,
  chosen,
  heldBy,
  clipHands,
  trackHands,
  onChooseNone,
}: Props) {
  const lane = useRef<HTMLDivElement | null>(null),
    size = sizeOf(look, track.id),
    height = trackHeights[size];
  const beatAt = (clientX: number) =>
    Math.max(0, Math.floor((clientX - (lane.current?.getBoundingClientRect().left ?? 0)) / look.barPixels) * barBeats);
  const { setNodeRef, isOver } = useDroppable({ id: `track-${track.id}`, data: { beatAt, trackId: track.id } });
  return (
    <div className="flex border-b border-base-300" role="group" aria-label={`Track ${track.name}`} style={{ height }}>
      <TrackHead track={track} size={size} chosen={isChosen} hands={trackHands} />
      <div
        ref={(node) => {
          lane.current = node;
          setNodeRef(node);
        }}
        data-lane={track.id}
        className={`relative shrink-0 ${isOver ? 'bg-base-300' : ''} ${audible ? '' : 'opacity-45'}`}
        style={{ width }}
        onPointerDown={(event) => {
          if (event.target === event.currentTarget && !event.shiftKey) onChooseNone();
        }}
      >
        <Lane
          clips={track.clips}
          loops={loops}
          patterns={patterns}
          setting={setting}
          colour={track.colour}
          height={height}
          beatPixels={look.barPixels / barBeats}
          laneBeats={Math.round(width / look.barPixels) * barBeats}
          barBeats={barBeats}
          stepBeats={stepBeats}
          drawn={look.drawn}
          chosen={chosen}
          heldBy={heldBy}
          hands={clipHands}
        />
      </div>
    </div>
  );
}
