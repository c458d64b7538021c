import { useMemo, useRef, useState } from 'react';
import { RoomLink } from '~/ui/room-link';
import { audibleTracks, findClip, projectEndBeat, type Project } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { useEngine, useFrame } from '~/audio/hooks';
import { ClipPanel } from './clip-panel';
import { headWidth } from './measures';
import { TrackRow } from './track-row';

/** Tracks and clips on bars. */
export function Timeline({ project }: { project: Project }) {
  const engine = useEngine(),
    [barPixels, setBarPixels] = useState(56),
    [selected, setSelected] = useState<string | null>(null),
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
  const found = selected ? findClip(project, selected) : null;
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
      <div ref={scroller} className="relative min-h-0 flex-1 overflow-auto" tabIndex={-1}>
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
                <span
                  key={section.id}
                  className="absolute top-0.5 h-4 truncate rounded-sm bg-base-300 px-1.5 text-[0.79rem] font-semibold leading-4"
                  style={{ left: section.startBeat * beatPixels + 1, width: section.lengthBeats * beatPixels - 2 }}
                >
                  {section.name}
                </span>
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
              selected={selected}
              onSelect={setSelected}
            />
          ))}
          <div ref={head} className="pointer-events-none absolute inset-y-0 left-0 z-10 w-0.5 bg-primary" />
        </div>
      </div>
      {found && <ClipPanel project={project} track={found.track} clip={found.clip} onClose={() => setSelected(null)} />}
    </>
  );
}
