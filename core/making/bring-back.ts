import type { Edit } from '../arrangement/edit';
import type { NewId } from '../arrangement/acts/parts';
import { trackColourCount, type Clip, type Project } from '../arrangement/tree';

/**
 * The tracks that a loop was made of, in a project from a beat on: with their names, colours, loops, treatment and level, to be changed as if they
 * had been built there. They follow its tempo and key.
 * @param ontoTrackId a track that takes all their clips, as they are, at its own level; null for tracks of their own
 */
export function bringBack(project: Project, part: Project, startBeat: number, newId: NewId, ontoTrackId: string | null = null): Edit {
  // Its patterns come as patterns of their own: what is changed in them changes nothing that is here.
  const patternIds = new Map(part.patterns.map(({ id }) => [id, newId()])),
    patterns = part.patterns.map((pattern): Edit => ({
      kind: 'add-pattern',
      pattern: { ...pattern, id: patternIds.get(pattern.id) as string },
    })),
    brought = (clip: Clip): Clip => ({
      ...clip,
      id: newId(),
      startBeat: clip.startBeat + startBeat,
      content:
        clip.content.kind === 'notes'
          ? { kind: 'notes', patternId: patternIds.get(clip.content.patternId) ?? clip.content.patternId }
          : clip.content,
    });
  if (ontoTrackId !== null)
    return {
      kind: 'batch',
      edits: [
        ...patterns,
        ...part.tracks.flatMap(({ clips }) => clips.map((clip): Edit => ({ kind: 'add-clip', trackId: ontoTrackId, clip: brought(clip) }))),
      ],
    };
  return {
    kind: 'batch',
    edits: [
      ...patterns,
      ...part.tracks.map((track, k): Edit => ({
        kind: 'add-track',
        index: project.tracks.length + k,
        track: {
          ...track,
          id: newId(),
          colour: track.colour % trackColourCount,
          clips: track.clips.map(brought),
        },
      })),
    ],
  };
}
