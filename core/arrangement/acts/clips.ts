import type { Edit, TrackChanges } from '../edit';
import type { Clip, Project, Track } from '../tree';
import { cutAt, draftOf, editTo, followsOn, joined, liesWithin, trackOf, withChosen, type NewId } from './parts';

/** Cuts clips at beats. @returns null where no beat lies inside one */
export const cutClips = (project: Project, clipIds: readonly string[], beats: readonly number[], newId: NewId): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => cutAt([clip], beats, newId)),
  );

/** Cuts clips at each bar line. */
export const cutAtBars = (project: Project, clipIds: readonly string[], barBeats: number, newId: NewId): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => {
      const first = Math.floor(clip.startBeat / barBeats) + 1,
        count = Math.ceil(clip.lengthBeats / barBeats);
      return cutAt(
        [clip],
        Array.from({ length: count }, (_, k) => (first + k) * barBeats),
        newId,
      );
    }),
  );

/** Repeats clips out to a beat, or lets them end there; those that begin behind it stay. */
export const repeatTo = (project: Project, clipIds: readonly string[], endBeat: number): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => [endBeat > clip.startBeat ? { ...clip, lengthBeats: endBeat - clip.startBeat } : clip]),
  );

/** The end of the section in which a beat lies, else of the project. */
export function endBeatFor(project: Project, beat: number, projectEndBeat: number): number {
  const section = project.sections.find((each) => beat >= each.startBeat && beat < each.startBeat + each.lengthBeats);
  return section ? section.startBeat + section.lengthBeats : projectEndBeat;
}

/** Repeats clips once more. @param cycleBeatsOf how long one time of a clip's loop is, in beats of the project */
export const repeatOnce = (project: Project, clipIds: readonly string[], cycleBeatsOf: (clip: Clip) => number): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => [{ ...clip, lengthBeats: clip.lengthBeats + cycleBeatsOf(clip) }]),
  );

/** Moves clips by beats and by tracks; none goes before bar 1 or beyond the first and last track. */
export const moveClips = (project: Project, clipIds: readonly string[], beats: number, tracks: number): Edit | null =>
  movedBy(project, clipIds, beats, tracks, () => []);

/** The same, the clips staying where they are: their copies go. */
export const copyClips = (project: Project, clipIds: readonly string[], beats: number, tracks: number, newId: NewId): Edit | null =>
  movedBy(
    project,
    clipIds,
    beats,
    tracks,
    (clip) => [clip],
    (clip) => ({ ...clip, id: newId() }),
  );

function movedBy(
  project: Project,
  clipIds: readonly string[],
  beats: number,
  tracks: number,
  left: (clip: Clip) => readonly Clip[],
  goes: (clip: Clip) => Clip = (clip) => clip,
): Edit | null {
  const chosen = new Set(clipIds),
    all = project.tracks.flatMap((track, index) => track.clips.filter(({ id }) => chosen.has(id)).map((clip) => ({ clip, index })));
  if (all.length === 0) return null;
  const by = Math.max(beats, -Math.min(...all.map(({ clip }) => clip.startBeat))),
    down = Math.max(
      -Math.min(...all.map(({ index }) => index)),
      Math.min(tracks, project.tracks.length - 1 - Math.max(...all.map(({ index }) => index))),
    ),
    draft = withChosen(project, clipIds, left);
  for (const { clip, index } of all) draft.get(project.tracks[index + down].id)?.push({ ...goes(clip), startBeat: clip.startBeat + by });
  return editTo(project, draft);
}

/** Copies clips behind themselves, as a whole: the copies begin where the last of them ends. */
export function copyBehind(project: Project, clipIds: readonly string[], newId: NewId): Edit | null {
  const chosen = project.tracks.flatMap((track) => track.clips.filter(({ id }) => clipIds.includes(id)));
  if (chosen.length === 0) return null;
  const from = Math.min(...chosen.map(({ startBeat }) => startBeat)),
    by = Math.max(...chosen.map(({ startBeat, lengthBeats }) => startBeat + lengthBeats)) - from;
  return editTo(
    project,
    withChosen(project, clipIds, (clip) => [clip, { ...clip, id: newId(), startBeat: clip.startBeat + by }]),
  );
}

/** Removes clips. */
export const removeClips = (project: Project, clipIds: readonly string[]): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, () => []),
  );

/** Lets clips begin later (or earlier), what is inside staying where it sounds. */
export const trimStart = (project: Project, clipIds: readonly string[], beats: number): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => {
      const by = Math.max(-Math.min(clip.startBeat, clip.offsetBeats), Math.min(beats, clip.lengthBeats - 1 / 4));
      return [
        {
          ...clip,
          startBeat: clip.startBeat + by,
          lengthBeats: clip.lengthBeats - by,
          offsetBeats: clip.offsetBeats + by,
          landsAfterBeats: clip.landsAfterBeats === null ? null : clip.landsAfterBeats - by,
        },
      ];
    }),
  );

/** Moves what is inside a clip, its place staying: another part of the loop begins it. @param cycleBeatsOf Infinity for what plays once */
export const slipInside = (
  project: Project,
  clipIds: readonly string[],
  beats: number,
  cycleBeatsOf: (clip: Clip) => number,
): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => {
      const cycle = cycleBeatsOf(clip),
        offset = clip.offsetBeats + beats;
      return [{ ...clip, offsetBeats: Number.isFinite(cycle) && cycle > 0 ? ((offset % cycle) + cycle) % cycle : Math.max(0, offset) }];
    }),
  );

/**
 * Joins clips of one loop that follow each other on a track and go on inside it as if they were one.
 * @returns null where nothing can be joined
 */
export function joinClips(project: Project, clipIds: readonly string[], cycleBeatsOf: (clip: Clip) => number): Edit | null {
  const draft = draftOf(project);
  for (const [trackId, clips] of draft) {
    const chosen = clips.filter(({ id }) => clipIds.includes(id)).sort((a, b) => a.startBeat - b.startBeat),
      made: Clip[] = [];
    for (const clip of chosen) {
      const last = made.at(-1),
        cycle = cycleBeatsOf(clip),
        inCycle = (beats: number) => (Number.isFinite(cycle) ? beats - Math.floor(beats / cycle + 1e-6) * cycle : beats);
      if (last && followsOn(last, { ...clip, offsetBeats: inCycle(clip.offsetBeats) }, inCycle(last.offsetBeats + last.lengthBeats)))
        made[made.length - 1] = joined(last, clip);
      else made.push(clip);
    }
    const kept = new Set(chosen.map(({ id }) => id));
    draft.set(trackId, [...clips.filter(({ id }) => !kept.has(id)), ...made]);
  }
  return editTo(project, draft);
}

/** Silences a stretch of beats on tracks: what lies in it is cut out, what lies around it stays. */
export function silence(project: Project, trackIds: readonly string[], from: number, to: number, newId: NewId): Edit | null {
  const draft = draftOf(project);
  for (const trackId of trackIds)
    draft.set(
      trackId,
      cutAt(draft.get(trackId) ?? [], [from, to], newId).filter((clip) => !liesWithin(clip, from, to)),
    );
  return editTo(project, draft);
}

/**
 * Gaps by a pattern: of each group of bars only those that are said are played, within each clip from its start.
 * @param plays one for each bar of the pattern, such as 1 1 0 0
 */
export function gapsByPattern(
  project: Project,
  clipIds: readonly string[],
  plays: readonly boolean[],
  barBeats: number,
  newId: NewId,
): Edit | null {
  return editTo(
    project,
    withChosen(project, clipIds, (clip) => {
      const bars = Math.ceil(clip.lengthBeats / barBeats),
        lines = Array.from({ length: bars }, (_, k) => clip.startBeat + k * barBeats);
      return cutAt(
        [clip],
        lines.filter((_, k) => k > 0 && plays[k % plays.length] !== plays[(k - 1) % plays.length]),
        newId,
      ).filter(({ startBeat }) => plays[Math.round((startBeat - clip.startBeat) / barBeats) % plays.length]);
    }),
  );
}

/** A track as it is, once more below itself. */
export function duplicateTrack(project: Project, trackId: string, newId: NewId): Edit | null {
  const index = project.tracks.findIndex(({ id }) => id === trackId),
    track = project.tracks[index];
  if (!track) return null;
  return {
    kind: 'add-track',
    index: index + 1,
    track: { ...track, id: newId(), name: `${track.name} 2`.slice(0, 120), clips: track.clips.map((clip) => ({ ...clip, id: newId() })) },
  };
}

/** A track in another place. @param to its place among the others, from 0 */
export function moveTrackTo(project: Project, trackId: string, to: number): Edit | null {
  const index = project.tracks.findIndex(({ id }) => id === trackId);
  if (index < 0 || to === index || to < 0 || to >= project.tracks.length) return null;
  return {
    kind: 'batch',
    edits: [
      { kind: 'remove-track', trackId },
      { kind: 'add-track', index: to, track: project.tracks[index] },
    ],
  };
}

/** A track above or below its neighbour. */
export const moveTrack = (project: Project, trackId: string, by: 1 | -1): Edit | null =>
  moveTrackTo(project, trackId, project.tracks.findIndex(({ id }) => id === trackId) + by);

/** Changes several tracks in one act. */
export function changeTracks(project: Project, trackIds: readonly string[], change: (track: Track) => TrackChanges): Edit | null {
  const edits = project.tracks
    .filter(({ id }) => trackIds.includes(id))
    .map((track): Edit => ({ kind: 'set-track', trackId: track.id, changes: change(track) }));
  return edits.length > 0 ? { kind: 'batch', edits } : null;
}

/** All clips of the track of one of them, or those that a section holds. */
export const clipsOfTrack = (project: Project, clipId: string): string[] => trackOf(project, clipId)?.clips.map(({ id }) => id) ?? [];
