import { changeTracks } from '~core/arrangement/acts/clips';
import type { Edit, TrackChanges } from '~core/arrangement/edit';
import type { Project, Track } from '~core/arrangement/tree';
import { useEngine } from '~/audio/hooks';
import { useProjectStore } from '~/ui/project-store';
import { RoomLink } from '~/ui/room-link';
import { toast } from '~/ui/toast';
import { askedOfTracks, askToGiveBack } from './give-back';
import { whatGoesWith } from './what-goes-with';

/** What can be done to the chosen tracks together. */
export function TrackActs({
  project,
  chosen,
  onMake,
  onChooseNone,
  onChooseClips,
}: {
  project: Project;
  chosen: ReadonlySet<string>;
  onMake: (edit: Edit | null, otherwise: string) => void;
  onChooseNone: () => void;
  onChooseClips: (clipIds: string[]) => void;
}) {
  const store = useProjectStore(),
    engine = useEngine(),
    tracks = project.tracks.filter(({ id, setAside }) => chosen.has(id) && !setAside);
  if (tracks.length === 0) return null;
  const ids = tracks.map(({ id }) => id),
    change = (by: (track: Track) => TrackChanges) => onMake(changeTracks(project, ids, by), 'They are gone.'),
    allMuted = tracks.every(({ muted }) => muted),
    allSoloed = tracks.every(({ soloed }) => soloed);
  const remove = () => {
    if (store.edit({ kind: 'batch', edits: ids.map((trackId) => ({ kind: 'remove-track', trackId })) }) !== null) return;
    toast(`Removed ${ids.length} tracks.`, { action: { label: 'Undo', onClick: store.undoOfLast() } });
  };
  return (
    <div
      role="toolbar"
      aria-label="Chosen tracks"
      className="flex shrink-0 flex-wrap items-center gap-1.5 border-t border-base-300 bg-base-300 px-3 py-1 text-[0.93rem]"
    >
      <strong className="mr-2" role="status">
        {ids.length === 1 ? '1 track' : `${ids.length} tracks`}
      </strong>
      <button className="btn btn-xs" aria-pressed={allMuted} onClick={() => change(() => ({ muted: !allMuted }))}>
        {allMuted ? 'Unmute' : 'Mute'}
      </button>
      <button className="btn btn-xs" aria-pressed={allSoloed} onClick={() => change(() => ({ soloed: !allSoloed }))}>
        {allSoloed ? 'No solo' : 'Solo'}
      </button>
      <button className="btn btn-xs" onClick={() => change(({ gainDb }) => ({ gainDb: Math.max(-60, gainDb - 1) }))}>
        Softer by 1 dB
      </button>
      <button className="btn btn-xs" onClick={() => change(({ gainDb }) => ({ gainDb: Math.min(12, gainDb + 1) }))}>
        Louder by 1 dB
      </button>
      <button className="btn btn-xs" onClick={() => onChooseClips(tracks.flatMap(({ clips }) => clips.map(({ id }) => id)))}>
        Choose their clips
      </button>
      <button
        className="btn btn-xs"
        onClick={() => {
          change(() => ({ setAside: true }));
          onChooseNone();
        }}
      >
        Set aside
      </button>
      <RoomLink className="btn btn-xs" to={whatGoesWith(ids)}>
        {ids.length === 1 ? 'Find what goes with it' : 'Find what goes with them'}
      </RoomLink>
      <button
        className="btn btn-xs"
        onClick={() => {
          const asked = askedOfTracks(project, ids, engine.chosenRange);
          if (asked) askToGiveBack(asked);
          else toast('There is nothing on them.');
        }}
      >
        Give back …
      </button>
      <button className="btn btn-xs" onClick={remove}>
        Remove
      </button>
      <button className="btn btn-xs ml-auto" onClick={onChooseNone}>
        Choose none
      </button>
    </div>
  );
}
