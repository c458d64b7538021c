import type { Edit } from '../arrangement/edit';
import type { NewId } from '../arrangement/acts/parts';
import { trackColourCount, type Project } from '../arrangement/tree';

/**
 * The tracks that a loop was made of, in a project from a beat on: with their names, colours, loops, treatment and level, to be changed as if they
 * had been built there. They follow its tempo and key.
 * @param ontoTrackId a track that takes all their clips, as they are, at its own level; null for tracks of their own
 */
export function bringBack(project: Project, part: Project, startBeat: number, newId: NewId, ontoTrackId: string | null = null): Edit {
  if (ontoTrackId !== null)
    return {
      kind: 'batch',
      edits: part.tracks.flatMap(({ clips }) =>
        clips.map((clip): Edit => ({
          kind: 'add-clip',
          trackId: ontoTrackId,
          clip: { ...clip, id: newId(), startBeat: clip.startBeat + startBeat },
        })),
      ),
    };
  return {
    kind: 'batch',
    edits: part.tracks.map((track, k) => ({
      kind: 'add-track',
      index: project.tracks.length + k,
      track: {
        ...track,
        id: newId(),
        colour: track.colour % trackColourCount,
        clips: track.clips.map((clip) => ({ ...clip, id: newId(), startBeat: clip.startBeat + startBeat })),
      },
    })),
  };
}
