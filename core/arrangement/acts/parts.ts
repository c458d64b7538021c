import type { Edit } from '../edit';
import type { Clip, Project, Track } from '../tree';

/*
 * Acts of a producer as edits: each is one step, and takes itself back. They work on a draft: clips by track, cut where lines are drawn, moved,
 * left out; what differs from the project at the end is the edit.
 */

/** Names for what an act makes; the caller's, so that acts stay pure. */
export type NewId = () => string;

/** What plays in which track, while an act changes it. */
export type Draft = Map<string, Clip[]>;

const nearlyZero = 1e-6;

/** The clips of a project by track. */
export const draftOf = (project: Project): Draft => new Map(project.tracks.map((track) => [track.id, [...track.clips]]));

/** Cuts clips at beats: each part begins inside its loop where the cut is, so that nothing sounds otherwise than before. */
export function cutAt(clips: readonly Clip[], beats: readonly number[], newId: NewId): Clip[] {
  return clips.flatMap((clip) => {
    const inside = [...new Set(beats)]
      .filter((beat) => beat > clip.startBeat + nearlyZero && beat < clip.startBeat + clip.lengthBeats - nearlyZero)
      .sort((a, b) => a - b);
    return [clip.startBeat, ...inside].map((from, k): Clip => {
      const until = inside[k] ?? clip.startBeat + clip.lengthBeats;
      return {
        ...clip,
        id: k === 0 ? clip.id : newId(),
        startBeat: from,
        lengthBeats: until - from,
        offsetBeats: clip.offsetBeats + from - clip.startBeat,
      };
    });
  });
}

/** Whether a clip lies wholly within a stretch of beats. */
export const liesWithin = ({ startBeat, lengthBeats }: Clip, from: number, to: number): boolean =>
  startBeat >= from - nearlyZero && startBeat + lengthBeats <= to + nearlyZero;

const sameClip = (a: Clip, b: Clip): boolean =>
  a.startBeat === b.startBeat && a.lengthBeats === b.lengthBeats && a.offsetBeats === b.offsetBeats && a.loopId === b.loopId;

/** The edit that makes a draft of a project; null where nothing differs. @param more edits of sections and chords that belong to it */
export function editTo(project: Project, draft: Draft, more: readonly Edit[] = []): Edit | null {
  const before = new Map(project.tracks.flatMap((track) => track.clips.map((clip) => [clip.id, { clip, trackId: track.id }] as const))),
    after = new Map([...draft].flatMap(([trackId, clips]) => clips.map((clip) => [clip.id, { clip, trackId }] as const))),
    edits: Edit[] = [];
  for (const id of before.keys()) if (!after.has(id)) edits.push({ kind: 'remove-clip', clipId: id });
  for (const [id, { clip, trackId }] of after) {
    const was = before.get(id);
    if (!was) edits.push({ kind: 'add-clip', trackId, clip });
    else if (was.trackId !== trackId || !sameClip(was.clip, clip)) {
      const { startBeat, lengthBeats, offsetBeats } = clip;
      edits.push({ kind: 'set-clip', clipId: id, trackId, changes: { startBeat, lengthBeats, offsetBeats } });
    }
  }
  edits.push(...more);
  return edits.length === 0 ? null : edits.length === 1 ? edits[0] : { kind: 'batch', edits };
}

/** A track and the clips that are meant in it. */
export const trackOf = (project: Project, clipId: string): Track | undefined =>
  project.tracks.find(({ clips }) => clips.some(({ id }) => id === clipId));
