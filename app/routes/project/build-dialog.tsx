import { useEffect, useRef, useState } from 'react';
import { ArrowDown, ArrowUp } from 'lucide-react';
import { applyEntries, entriesOf, type Entry } from '~core/arrangement/acts/sections';
import type { Edit } from '~core/arrangement/edit';
import { ofLoop, type Project, type Section } from '~core/arrangement/tree';
import { beatsPerBar } from '~core/units/time';
import { newId } from '~/ui/new-id';
import { useProject } from '~/ui/project-store';
import { DialogButtons } from './dialog-buttons';
import { HearIt } from './hear-it';

/** Which tracks come in (or go) when, thin ones first: shown before it is made, ordered otherwise, left out. */
export function BuildDialog({
  project,
  section,
  way,
  onClose,
  onMake,
}: {
  project: Project;
  section: Section;
  way: 'in' | 'out';
  onClose: () => void;
  onMake: (edit: Edit | null, otherwise: string) => void;
}) {
  const dialog = useRef<HTMLDialogElement>(null),
    loops = useProject((state) => state.loops),
    bar = beatsPerBar(project.meter),
    bars = Math.max(1, Math.round(section.lengthBeats / bar)),
    end = section.startBeat + section.lengthBeats,
    there = project.tracks.filter((track) =>
      track.clips.some((clip) => clip.startBeat < end && clip.startBeat + clip.lengthBeats > section.startBeat),
    );
  const densityOf = (trackId: string): number | null => {
    const hits = there
      .find(({ id }) => id === trackId)
      ?.clips.filter((clip) => clip.startBeat < end && clip.startBeat + clip.lengthBeats > section.startBeat)
      .flatMap((clip) => {
        const source = ofLoop(loops, clip)?.source;
        return source?.beats ? [source.onsetFrames.length / source.beats] : [];
      });
    return hits && hits.length > 0 ? Math.max(...hits) : null;
  };
  const [every, setEvery] = useState(Math.max(1, Math.min(4, Math.floor(bars / Math.max(1, there.length))))),
    [order, setOrder] = useState<readonly string[]>(() =>
      entriesOf(
        there.map(({ id }) => id),
        1,
        bars,
        densityOf,
      ).map(({ trackId }) => trackId),
    ),
    [left, setLeft] = useState<ReadonlySet<string>>(new Set());
  useEffect(() => dialog.current?.showModal(), []);
  const taken = order.filter((trackId) => !left.has(trackId)),
    entries: Entry[] = taken.map((trackId, k) => ({ trackId, bar: Math.min(k * every, bars - 1) })),
    nameOf = (trackId: string) => there.find(({ id }) => id === trackId)?.name ?? '',
    move = (at: number, by: 1 | -1) => {
      const next = [...order];
      next.splice(at + by, 0, ...next.splice(at, 1));
      setOrder(next);
    };
  return (
    <dialog
      ref={dialog}
      className="modal"
      onClose={onClose}
      aria-label={way === 'in' ? `Build ${section.name} up` : `Thin ${section.name} out`}
    >
      <form
        method="dialog"
        className="modal-box max-w-2xl"
        onSubmit={(event) => {
          event.preventDefault();
          onMake(applyEntries(project, section, entries, way, bar, newId), 'Nothing would change.');
          dialog.current?.close();
        }}
      >
        <h2>{way === 'in' ? `Build “${section.name}” up` : `Thin “${section.name}” out`}</h2>
        <label className="mt-3 flex items-center gap-2">
          one {way === 'in' ? 'comes in' : 'goes'} every
          <input
            type="number"
            className="input input-sm w-20"
            min={1}
            max={bars}
            value={every}
            onChange={(event) => setEvery(Math.max(1, Math.min(bars, Math.round(Number(event.target.value)) || 1)))}
          />
          bars, the thinnest {way === 'in' ? 'first' : 'last'}
        </label>
        <ul className="mt-3 grid gap-1">
          {order.map((trackId, at) => {
            const entry = entries.find((each) => each.trackId === trackId),
              from = entry ? (way === 'in' ? entry.bar : 0) : 0,
              to = entry ? (way === 'in' ? bars : bars - entry.bar) : bars;
            return (
              <li key={trackId} className="flex items-center gap-2">
                <input
                  type="checkbox"
                  className="checkbox checkbox-sm"
                  aria-label={`${nameOf(trackId)} takes part`}
                  checked={!left.has(trackId)}
                  onChange={() => {
                    const next = new Set(left);
                    if (!next.delete(trackId)) next.add(trackId);
                    setLeft(next);
                  }}
                />
                <span className="w-40 truncate">{nameOf(trackId)}</span>
                <span className="relative h-4 flex-1 rounded-sm bg-base-200" aria-hidden="true">
                  <span
                    className="absolute inset-y-0 rounded-sm bg-primary"
                    style={{ left: `${(from / bars) * 100}%`, width: `${((to - from) / bars) * 100}%`, opacity: entry ? 1 : 0.35 }}
                  />
                </span>
                <span className="quiet w-28">
                  {entry
                    ? way === 'in'
                      ? `from bar ${section.startBeat / bar + entry.bar + 1}`
                      : `to bar ${section.startBeat / bar + to}`
                    : 'as it is'}
                </span>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  disabled={at === 0}
                  aria-label={`${nameOf(trackId)} earlier`}
                  onClick={() => move(at, -1)}
                >
                  <ArrowUp className="size-3.5" />
                </button>
                <button
                  type="button"
                  className="btn btn-ghost btn-xs btn-square"
                  disabled={at === order.length - 1}
                  aria-label={`${nameOf(trackId)} later`}
                  onClick={() => move(at, 1)}
                >
                  <ArrowDown className="size-3.5" />
                </button>
              </li>
            );
          })}
        </ul>
        <HearIt
          key={JSON.stringify(entries)}
          project={project}
          fromBeat={section.startBeat}
          make={() => ({ edit: applyEntries(project, section, entries, way, bar, newId) })}
        />
        <DialogButtons dialog={dialog} />
      </form>
    </dialog>
  );
}
