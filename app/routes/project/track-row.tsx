import { useRef } from 'react';
import { useDroppable } from '@dnd-kit/core';
import { toast } from '~/ui/toast';
import { trackColourCount, type Project, type Track } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine } from '~/audio/hooks';
import { DragSlider } from '~/ui/drag-slider';
import { signed } from '~/ui/format';
import { useProjectStore } from '~/ui/project-store';
import { ClipBox } from './clip-box';
import { Field } from './project-head';
import { headWidth, trackHeight } from './measures';
import { TrackMenu } from './track-menu';
import type { ClipActs } from './use-acts';

interface Props {
  readonly track: Track;
  readonly project: Project;
  readonly audible: boolean;
  readonly barPixels: number;
  readonly width: number;
  readonly chosen: readonly string[];
  readonly acts: ClipActs;
  readonly onChoose: (clipId: string | null, adds?: boolean) => void;
}

/** A track: its head with mute, solo, gain, pan, colour, and its lane of clips, onto which loops can be dropped. */
export function TrackRow({ track, project, audible, barPixels, width, chosen, acts, onChoose }: Props) {
  const projectStore = useProjectStore(),
    engine = useEngine(),
    lane = useRef<HTMLDivElement | null>(null),
    bar = beatsPerBar(project.meter);
  const beatAt = (clientX: number) =>
    Math.max(0, Math.floor((clientX - (lane.current?.getBoundingClientRect().left ?? 0)) / barPixels) * bar);
  const { setNodeRef, isOver } = useDroppable({ id: `track-${track.id}`, data: { beatAt, trackId: track.id } });
  const change = (changes: Partial<Pick<Track, 'name' | 'gainDb' | 'pan' | 'muted' | 'soloed' | 'colour'>>) => {
    const refused = projectStore.edit({ kind: 'set-track', trackId: track.id, changes });
    if (refused) toast.error(refused);
  };
  /** Levels that are still being looked for. */
  const hear = (changes: Partial<Pick<Track, 'gainDb' | 'pan'>>) =>
    engine.hearLevels(
      project.tracks.map((each) => (each.id === track.id ? { ...each, ...changes } : each)),
      project.masterGainDb,
    );
  const remove = () => {
    projectStore.edit({ kind: 'remove-track', trackId: track.id });
    toast(`Removed the track “${track.name}”.`, { action: { label: 'Undo', onClick: () => projectStore.undo() } });
  };
  return (
    <div className="flex border-b border-base-300" role="group" aria-label={`Track ${track.name}`} style={{ height: trackHeight }}>
      <div className="sticky left-0 z-10 flex shrink-0 gap-0.5 border-r border-base-300 bg-base-100 py-1 pr-2" style={{ width: headWidth }}>
        <button
          className="flex w-6 shrink-0 justify-center"
          aria-label={`Next colour for ${track.name}`}
          title="Next colour"
          onClick={() => change({ colour: (track.colour + 1) % trackColourCount })}
        >
          <span className="h-full w-2 rounded-sm" style={{ background: `var(--track-${track.colour})` }} />
        </button>
        <div className="flex min-w-0 flex-1 flex-col justify-between">
          <div className="flex items-center gap-1">
            <Field plain label="Track name" width="w-full" value={track.name} onCommit={(name) => change({ name })} />
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
              onDraft={(gainDb) => hear({ gainDb })}
              onCommit={(gainDb) => change({ gainDb })}
            >
              {(gainDb) => <span className="w-9 text-right text-[0.79rem]">{signed(gainDb, 1)}</span>}
            </DragSlider>
            <DragSlider
              className="range range-xs w-12 shrink-0"
              min={-1}
              max={1}
              step={0.05}
              value={track.pan}
              aria-label={`Pan of ${track.name}`}
              title={`Pan ${track.pan === 0 ? 'centre' : `${Math.round(Math.abs(track.pan) * 100)} ${track.pan < 0 ? 'left' : 'right'}`}`}
              onDoubleClick={() => change({ pan: 0 })}
              onDraft={(pan) => hear({ pan })}
              onCommit={(pan) => change({ pan })}
            />
            <TrackMenu project={project} track={track} onRemove={remove} />
          </div>
        </div>
      </div>
      <div
        ref={(node) => {
          lane.current = node;
          setNodeRef(node);
        }}
        data-lane={track.id}
        className={`relative shrink-0 ${isOver ? 'bg-base-300' : ''} ${audible ? '' : 'opacity-45'}`}
        style={{
          width,
          backgroundImage: 'linear-gradient(to right, var(--grid) 1px, transparent 1px)',
          backgroundSize: `${barPixels}px 100%`,
        }}
        onPointerDown={(event) => {
          if (event.target === event.currentTarget && !event.shiftKey) onChoose(null);
        }}
      >
        {track.clips.map((clip) => (
          <ClipBox
            key={clip.id}
            clip={clip}
            track={track}
            project={project}
            barPixels={barPixels}
            selected={chosen.includes(clip.id)}
            acts={acts}
            onChoose={(adds) => onChoose(clip.id, adds)}
          />
        ))}
      </div>
    </div>
  );
}
