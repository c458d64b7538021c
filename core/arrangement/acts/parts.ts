import same from 'fast-deep-equal';
import type { Edit } from '../edit';
import { newClip, type Clip, type Project, type Track } from '../tree';

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
        landsAfterBeats: clip.landsAfterBeats === null ? null : clip.landsAfterBeats - (from - clip.startBeat),
        // What comes up or goes down does so at the ends of the whole, as far as there is room.
        fadeInBeats: k === 0 ? Math.min(clip.fadeInBeats, until - from) : 0,
        fadeOutBeats: k === inside.length ? Math.min(clip.fadeOutBeats, until - from) : 0,
      };
    });
  });
}

/** Whether a clip lies wholly within a stretch of beats. */
export const liesWithin = ({ startBeat, lengthBeats }: Clip, from: number, to: number): boolean =>
  startBeat >= from - nearlyZero && startBeat + lengthBeats <= to + nearlyZero;

/** What is done to a clip, wherever it lies. */
const treatmentOf = ({ content, gainDb, muted, shiftSemitones, followTempo, followKey, chordWay, shiftMarks, overrides }: Clip): string =>
  JSON.stringify([content, gainDb, muted, shiftSemitones, followTempo, followKey, chordWay, shiftMarks, overrides]);

/**
 * Whether a clip goes on where another ends, as if they were one.
 * @param goesOnAtBeats the place in its content that the first has reached
 */
export const followsOn = (first: Clip, next: Clip, goesOnAtBeats: number): boolean =>
  Math.abs(first.startBeat + first.lengthBeats - next.startBeat) < 1e-4 &&
  Math.abs(goesOnAtBeats - next.offsetBeats) < 1e-4 &&
  first.fadeOutBeats === 0 &&
  next.fadeInBeats === 0 &&
  treatmentOf(first) === treatmentOf(next);

/** Two that follow each other as one. */
export const joined = (first: Clip, next: Clip): Clip => ({
  ...first,
  lengthBeats: first.lengthBeats + next.lengthBeats,
  fadeOutBeats: next.fadeOutBeats,
});

/** A draft with the chosen clips changed, each into what is given; the others stay. */
export function withChosen(project: Project, clipIds: readonly string[], change: (clip: Clip) => readonly Clip[]): Draft {
  const chosen = new Set(clipIds),
    draft = draftOf(project);
  for (const [trackId, clips] of draft)
    draft.set(
      trackId,
      clips.flatMap((clip) => (chosen.has(clip.id) ? change(clip) : [clip])),
    );
  return draft;
}

const changeable = (({ kind: _, id: __, ...rest }: Clip) => Object.keys(rest) as (keyof typeof rest)[])(
  newClip({ id: '', loopId: 0, startBeat: 0, lengthBeats: 1 }),
);

/** What of a clip differs from what it was. */
const changesTo = (was: Clip, clip: Clip): Partial<Clip> =>
  Object.fromEntries(changeable.filter((name) => !same(was[name], clip[name])).map((name) => [name, clip[name]]));

/** The edit that makes a draft of a project; null where nothing differs. @param more edits of sections and chords that belong to it */
export function editTo(project: Project, draft: Draft, more: readonly Edit[] = []): Edit | null {
  const before = new Map(project.tracks.flatMap((track) => track.clips.map((clip) => [clip.id, { clip, trackId: track.id }] as const))),
    after = new Map([...draft].flatMap(([trackId, clips]) => clips.map((clip) => [clip.id, { clip, trackId }] as const))),
    edits: Edit[] = [];
  for (const id of before.keys()) if (!after.has(id)) edits.push({ kind: 'remove-clip', clipId: id });
  for (const [id, { clip, trackId }] of after) {
    const was = before.get(id);
    if (!was) edits.push({ kind: 'add-clip', trackId, clip });
    else if (was.clip !== clip || was.trackId !== trackId) {
      const changes = changesTo(was.clip, clip);
      if (was.trackId !== trackId || Object.keys(changes).length > 0) edits.push({ kind: 'set-clip', clipId: id, trackId, changes });
    }
  }
  edits.push(...more);
  return edits.length === 0 ? null : edits.length === 1 ? edits[0] : { kind: 'batch', edits };
}

/** A track and the clips that are meant in it. */
export const trackOf = (project: Project, clipId: string): Track | undefined =>
  project.tracks.find(({ clips }) => clips.some(({ id }) => id === clipId));
