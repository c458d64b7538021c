import { useState } from 'react';
import { loopIdsOf } from '~core/arrangement/tree';
import { bringBack } from '~core/making/bring-back';
import { beatsPerBar } from '~core/units/time';
import type { Made } from '~contracts/making';
import { useEngine } from '~/audio/hooks';
import { fetchLoops } from '../changed-loops';
import { newId } from '../new-id';
import { useProject, useProjectStore } from '../project-store';
import { RoomLink } from '../room-link';
import { toast } from '../toast';

/** What a loop was made of, under which licences; and the way back to its tracks in the project. */
export function MadeOf({ made }: { made: Made }) {
  const store = useProjectStore(),
    engine = useEngine(),
    project = useProject((state) => state.project),
    [onto, setOnto] = useState(''),
    { how } = made;
  const bring = async () => {
    if (how.kind !== 'part' || !project) return;
    const rows = await fetchLoops(loopIdsOf(how.part.tracks)).catch(() => []),
      bar = beatsPerBar(project.meter),
      startBeat = Math.floor(engine.positionBeat() / bar + 1e-6) * bar,
      track = project.tracks.find(({ id }) => id === onto),
      wrong = store.edit(bringBack(project, how.part, startBeat, newId, track?.id ?? null), rows);
    const where = `from bar ${startBeat / bar + 1}`,
      tracks = how.part.tracks.length === 1 ? 'A track is' : `${how.part.tracks.length} tracks are`;
    toast(
      wrong ?? (track ? `What it is made of lies on “${track.name}” ${where}.` : `${tracks} in “${project.name}” ${where}.`),
      wrong === null ? { action: { label: 'Undo', onClick: store.undoOfLast() } } : {},
    );
  };
  return (
    <section>
      <h2>What it was made of</h2>
      <p className="quiet mt-1">
        {how.from === null
          ? `Recorded or dropped here as ${how.kind === 'file' ? how.fileName : 'a sound'}`
          : 'projectName' in how.from
            ? `“${how.from.projectName}”`
            : 'On the workbench'}
        , by {made.person}
      </p>
      <ul className="mt-1">
        {made.sources.map(({ loopId, title, packName, licence }) => (
          <li key={loopId} className="mt-1">
            <RoomLink className="link" to={`/loops/${loopId}`}>
              {title}
            </RoomLink>
            <span className="quiet block">
              {packName} · {licence || 'licence not stated'}
            </span>
          </li>
        ))}
      </ul>
      {how.kind === 'part' && project && (
        <div className="mt-2 flex flex-wrap items-center gap-2">
          <button
            className="btn btn-sm"
            onClick={() => void bring()}
            title="With their names, loops, treatment and levels, at the playhead"
          >
            Bring its {how.part.tracks.length === 1 ? 'track' : `${how.part.tracks.length} tracks`} into “{project.name}”
          </button>
          {how.part.tracks.length === 1 && project.tracks.length > 0 && (
            <select
              className="select select-sm w-44"
              aria-label="Onto which track"
              value={onto}
              onChange={({ target }) => setOnto(target.value)}
            >
              <option value="">as a track of its own</option>
              {project.tracks.map(({ id, name }) => (
                <option key={id} value={id}>
                  onto {name}
                </option>
              ))}
            </select>
          )}
        </div>
      )}
    </section>
  );
}
