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
    { how } = made;
  const bring = async () => {
    if (how.kind !== 'part' || !project) return;
    const rows = await fetchLoops(loopIdsOf(how.part.tracks)).catch(() => []),
      bar = beatsPerBar(project.meter),
      startBeat = Math.floor(engine.positionBeat() / bar + 1e-6) * bar,
      wrong = store.edit(bringBack(project, how.part, startBeat, newId), rows);
    toast(
      wrong ??
        `${how.part.tracks.length === 1 ? 'A track is' : `${how.part.tracks.length} tracks are`} in “${project.name}” from bar ${startBeat / bar + 1}.`,
      wrong === null ? { action: { label: 'Undo', onClick: () => store.undo() } } : {},
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
        <button
          className="btn btn-sm mt-2"
          onClick={() => void bring()}
          title="With their names, loops, treatment and levels, at the playhead"
        >
          Bring its {how.part.tracks.length === 1 ? 'track' : `${how.part.tracks.length} tracks`} into “{project.name}”
        </button>
      )}
    </section>
  );
}
