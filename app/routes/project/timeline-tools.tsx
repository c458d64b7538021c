import { Maximize, Scan, ZoomIn, ZoomOut } from 'lucide-react';
import { gridInWords, grids, type Grid } from '~core/arrangement/grid';
import type { Project } from '~core/arrangement/tree';
import type { BarNote } from '~contracts/project-room';
import { useEngine, useEngineState } from '~/audio/hooks';
import { newId } from '~/ui/new-id';
import { useRubs } from '~/ui/harmony/rubs';
import { useProjectStore } from '~/ui/project-store';
import { toast } from '~/ui/toast';
import { Here } from './here';
import type { Look, TimelineView } from './timeline-view';
import { BarNotes } from './bar-notes';
import { UsedLoops } from './used-loops';
import { Versions } from './versions';

/** How one looks at the timeline, and what stands beside it: versions, notes, who is here. */
export function TimelineTools({
  project,
  projectId,
  view,
  look,
  notes,
  onZoomToChosen,
  onZoomToAll,
  isHarmonyOpen,
  onHarmony,
}: {
  project: Project;
  projectId: number;
  view: TimelineView;
  look: Look;
  notes: readonly BarNote[];
  onZoomToChosen: () => void;
  onZoomToAll: () => void;
  isHarmonyOpen: boolean;
  onHarmony: () => void;
}) {
  const engine = useEngine(),
    store = useProjectStore(),
    rubs = useRubs().length,
    range = useEngineState((state) => state.range) && engine.chosenRange;
  const sectionOfRange = () => {
    if (!range) return;
    const wrong = store.edit({
      kind: 'add-section',
      section: {
        kind: 'section',
        id: newId(),
        name: 'New section',
        startBeat: range.startBeat,
        lengthBeats: Math.max(1, range.endBeat - range.startBeat),
      },
    });
    if (wrong) toast.error(wrong);
  };
  return (
    <div
      role="toolbar"
      aria-label="Timeline"
      className="flex shrink-0 flex-wrap items-center gap-x-3 gap-y-1 border-b border-base-300 px-3 py-1"
    >
      <span className="flex items-center gap-1">
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Zoom out"
          title="Zoom out (−, Ctrl and wheel)"
          onClick={() => view.zoomBy(0.8)}
        >
          <ZoomOut className="size-4" />
        </button>
        <button
          className="btn btn-ghost btn-xs btn-square"
          aria-label="Zoom in"
          title="Zoom in (+, Ctrl and wheel)"
          onClick={() => view.zoomBy(1.25)}
        >
          <ZoomIn className="size-4" />
        </button>
        <button
          className="btn btn-ghost btn-xs"
          aria-label="Zoom to what is chosen"
          title="Zoom to what is chosen (Z)"
          onClick={onZoomToChosen}
        >
          <Scan className="size-4" aria-hidden="true" /> chosen
        </button>
        <button className="btn btn-ghost btn-xs" aria-label="Zoom to all" title="Zoom to all (Shift Z)" onClick={onZoomToAll}>
          <Maximize className="size-4" aria-hidden="true" /> all
        </button>
      </span>
      <label className="flex items-center gap-1.5" title="Where things snap; Alt held suspends it">
        <span className="caps">Snap</span>
        <select
          className="select select-xs w-24"
          aria-label="Snap"
          value={look.grid}
          onChange={({ target }) => view.set({ grid: target.value as Grid })}
        >
          {grids.map((grid) => (
            <option key={grid} value={grid}>
              {gridInWords[grid]}
            </option>
          ))}
        </select>
      </label>
      <label className="flex items-center gap-1.5">
        <input
          type="checkbox"
          className="toggle toggle-xs toggle-primary"
          checked={look.follows}
          onChange={({ target }) => view.set({ follows: target.checked })}
        />
        follow
      </label>
      {range && (
        <span className="flex gap-1">
          <button className="btn btn-xs" onClick={sectionOfRange}>
            A section of the range
          </button>
          <button className="btn btn-xs" onClick={() => engine.setRange(null)}>
            No range
          </button>
        </span>
      )}
      <button className={`btn btn-xs ${isHarmonyOpen ? 'btn-neutral' : ''}`} aria-pressed={isHarmonyOpen} onClick={onHarmony}>
        Harmony
        {rubs > 0 && <span className="badge badge-xs badge-error">{rubs} rub</span>}
      </button>
      <span className="ml-auto flex items-center gap-2">
        <Here />
        <UsedLoops projectId={projectId} />
        <BarNotes project={project} projectId={projectId} notes={notes} />
        <Versions project={project} projectId={projectId} />
      </span>
    </div>
  );
}
