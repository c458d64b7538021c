import type { Edit } from '../arrangement/edit';
import type { NewId } from '../arrangement/acts/parts';
import { trackColourCount, type Project } from '../arrangement/tree';

/**
 * The tracks that a loop was made of, in a project from a beat on: with their names, colours, loops, treatment and level, to be changed as if they
 * had been built there. They follow its tempo and key.
 */
export function bringBack(project: Project, part: Project, startBeat: number, newId: NewId): Edit {
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
