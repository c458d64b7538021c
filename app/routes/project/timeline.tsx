import { useMemo, useRef, useState } from 'react';
import { RoomLink } from '~/ui/room-link';
import { newTrack, audibleTracks, findClip, projectEndBeat, trackColourCount, type Project } from '~core/arrangement/tree';
import { Plus } from 'lucide-react';
import { newId } from '~/ui/new-id';
import { useProjectStore } from '~/ui/project-store';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useFrame } from '~/audio/hooks';
import { ClipActs } from './clip-acts';
import { ClipPanel } from './clip-panel';
import { headWidth } from './measures';
import { SectionMenu } from './section-menu';
import { TrackRow } from './track-row';
import { useClipActs } from './use-acts';

/** A rubber band, in pixels of the window. */
interface Band {
  readonly fromX: number;
  readonly fromY: number;
  readonly toX: number;
  readonly toY: number;
}

/** Tracks and clips on bars. */
export function Timeline({ project }: { project: Project }) {
  const engine = useEngine(),
    store = useProjectStore(),
    [barPixels, setBarPixels] = useState(56),
    [chosen, setChosen] = useState<readonly string[]>([]),
    [band, setBand] = useState<Band | null>(null),
    head = useRef<HTMLDivElement>(null),
    scroller = useRef<HTMLDivElement>(null);
  const bar = beatsPerBar(project.meter),
    beatPixels = barPixels / bar,
    bars = Math.max(32, Math.ceil(projectEndBeat(project) / bar) + 8),
    width = bars * barPixels;
  const audible = useMemo(() => new Set(audibleTracks(project).map((track) => track.id)), [project]);
  useFrame(() => {
    if (head.current) head.current.style.transform = `translateX(${headWidth + engine.positionBeat() * beatPixels}px)`;
  });
  const there = useMemo(() => chosen.filter((id) => findClip(project, id)), [project, chosen]),
    found = there.length === 1 ? findClip(project, there[0]) : null,
    acts = useClipActs(project, there);
  const choose = (clipId: string | null, adds = false) =>
    setChosen((now) => {
      if (clipId === null) return [];
      if (adds) return now.includes(clipId) ? now.filter((id) => id !== clipId) : [...now, clipId];
      return now.includes(clipId) ? now : [clipId];
    });
  /** What lies under a rubber band, by where it is drawn. */
  const underBand = ({ fromX, fromY, toX, toY }: Band): string[] =>
    [...(scroller.current?.querySelectorAll<HTMLElement>('[data-clip]') ?? [])]
      .filter((element) => {
        const { left, right, top, bottom } = element.getBoundingClientRect();
        return left < Math.max(fromX, toX) && right > Math.min(fromX, toX) && top < Math.max(fromY, toY) && bottom > Math.min(fromY, toY);
      })
      .map((element) => element.dataset.clip ?? '');
  const addTrack = () =>
    void store.edit({
      kind: 'add-track',
      index: project.tracks.length,
      track: newTrack({ id: newId(), name: `Track ${project.tracks.length + 1}`, colour: project.tracks.length % trackColourCount }),
    });
  if (project.tracks.length === 0)
    return (
      <div className="flex min-h-0 flex-1 flex-col items-center justify-center gap-2 text-center">
        <p className="text-lg font-semibold">Nothing placed yet.</p>
        <p className="quiet max-w-md">Find a loop in the library, hear it, press Enter: it lands here on its own track.</p>
        <RoomLink to="/" className="btn btn-primary btn-sm mt-1">
          To the library
        </RoomLink>
      </div>
    );
  const every = barPixels >= 40 ? 1 : barPixels >= 20 ? 2 : 4;
  return (
    <>
      <div
        ref={scroller}
        className="relative min-h-0 flex-1 overflow-auto"
        tabIndex={-1}
        onPointerDown={(event) => {
          if (event.button !== 0 || !(event.target as HTMLElement).matches('[data-lane]')) return;
          event.currentTarget.setPointerCapture(event.pointerId);
          setBand({ fromX: event.clientX, fromY: event.clientY, toX: event.clientX, toY: event.clientY });
        }}
        onPointerMove={(event) => band && setBand({ ...band, toX: event.clientX, toY: event.clientY })}
        onPointerUp={(event) => {
          if (!band) return;
          const under = underBand(band);
          setBand(null);
          setChosen(event.shiftKey ? [...new Set([...chosen, ...under])] : under);
        }}
        onPointerCancel={() => setBand(null)}
        onKeyDown={(event) => {
          if (
            !(event.ctrlKey || event.metaKey) ||
            event.key.toLowerCase() !== 'a' ||
            (event.target as HTMLElement).closest('input, textarea, select')
          )
            return;
          event.preventDefault();
          setChosen(project.tracks.flatMap((track) => track.clips.map(({ id }) => id)));
        }}
      >
        <div className="relative" style={{ width: headWidth + width }}>
          <div className="sticky top-0 z-20 flex h-10 border-b border-base-300 bg-base-200">
            <label className="sticky left-0 z-10 flex items-center gap-2 bg-base-200 px-3" style={{ width: headWidth }}>
              <span className="caps">Zoom</span>
              <input
                type="range"
                className="range range-xs"
                min={14}
                max={160}
                value={barPixels}
                onChange={(event) => setBarPixels(Number(event.target.value))}
                aria-label="Zoom"
              />
            </label>
            <div
              className="relative flex-1 cursor-pointer"
              onClick={(event) =>
                engine.seek(Math.floor((event.clientX - event.currentTarget.getBoundingClientRect().left) / barPixels) * bar)
              }
            >
              {project.sections.map((section) => (
                <SectionMenu key={section.id} project={project} section={section} beatPixels={beatPixels} />
              ))}
              {Array.from({ length: Math.ceil(bars / every) }, (_, i) => (
                <span key={i} className="quiet absolute bottom-0.5 text-[0.79rem] leading-4" style={{ left: i * every * barPixels + 3 }}>
                  {i * every + 1}
                </span>
              ))}
            </div>
          </div>
          {project.tracks.map((track) => (
            <TrackRow
              key={track.id}
              track={track}
              project={project}
              audible={audible.has(track.id)}
              barPixels={barPixels}
              width={width}
              chosen={there}
              acts={acts}
              onChoose={choose}
            />
          ))}
          <div className="sticky left-0 px-3 py-1.5" style={{ width: headWidth }}>
            <button className="btn btn-xs" onClick={addTrack}>
              <Plus className="size-3.5" aria-hidden="true" /> Add a track
            </button>
          </div>
          <div ref={head} className="pointer-events-none absolute inset-y-0 left-0 z-5 w-0.5 bg-primary" />
        </div>
      </div>
      {band && (Math.abs(band.toX - band.fromX) > 3 || Math.abs(band.toY - band.fromY) > 3) && (
        <div
          className="pointer-events-none fixed z-30 border border-primary bg-primary/15"
          style={{
            left: Math.min(band.fromX, band.toX),
            top: Math.min(band.fromY, band.toY),
            width: Math.abs(band.toX - band.fromX),
            height: Math.abs(band.toY - band.fromY),
          }}
          aria-hidden="true"
        />
      )}
      {there.length > 0 && <ClipActs count={there.length} acts={acts} />}
      {found && <ClipPanel project={project} track={found.track} clip={found.clip} onClose={() => setChosen([])} />}
    </>
  );
}
