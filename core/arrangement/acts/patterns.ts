import type { Edit } from '../edit';
import { fitClip } from '../plan';
import type { LoopSource } from '../fit-request';
import { emptyPattern } from '../pattern/make-pattern';
import { notesOfClip } from '../pattern/plan-notes';
import { reversed } from '../pattern/edit-notes';
import { inPlayingOrder, type Pattern } from '../pattern/pattern';
import { loopIdOf, newClipOf, newTrack, patternOf, trackColourCount, type Clip, type Project } from '../tree';
import type { NewId } from './parts';

/** The clips that play a pattern. */
export const clipsOfPattern = (project: Project, patternId: string): Clip[] =>
  project.tracks.flatMap(({ clips }) => clips.filter(({ content }) => content.kind === 'notes' && content.patternId === patternId));

/** A clip of a pattern on a track of its own, or on one that is there. */
export function placePattern(
  project: Project,
  pattern: Pattern,
  {
    trackId,
    startBeat,
    lengthBeats = pattern.lengthBeats,
    trackName = pattern.name,
    ...said
  }: { readonly trackId: string | null; readonly startBeat: number; readonly trackName?: string } & Partial<Clip>,
  newId: NewId,
): { readonly edit: Edit; readonly clipId: string } {
  const clip = newClipOf({ kind: 'notes', patternId: pattern.id }, { ...said, id: newId(), startBeat, lengthBeats });
  return {
    clipId: clip.id,
    edit: {
      kind: 'batch',
      edits: [
        { kind: 'add-pattern', pattern },
        trackId === null
          ? {
              kind: 'add-track',
              index: project.tracks.length,
              track: newTrack({
                id: newId(),
                name: trackName.slice(0, 120),
                colour: project.tracks.length % trackColourCount,
                clips: [clip],
              }),
            }
          : { kind: 'add-clip', trackId, clip },
      ],
    },
  };
}

/** A pattern with nothing in it, placed. */
export const newPatternClip = (
  project: Project,
  name: string,
  place: { readonly trackId: string | null; readonly startBeat: number; readonly lengthBeats: number; readonly isDrums: boolean },
  newId: NewId,
): { readonly edit: Edit; readonly clipId: string } =>
  placePattern(
    project,
    emptyPattern({
      id: newId(),
      name,
      lengthBeats: place.lengthBeats,
      isDrums: place.isDrums,
      key: place.isDrums ? null : project.key,
      instrument: place.isDrums ? null : 'electric-piano',
    }),
    { trackId: place.trackId, startBeat: place.startBeat, lengthBeats: place.lengthBeats },
    newId,
  );

/** A clip with a pattern of its own: from now on it alone changes with it. Null where it is its own already. */
export function makeOwn(project: Project, clipId: string, newId: NewId): Edit | null {
  const found = project.tracks
      .flatMap(({ id, clips }) => clips.map((clip) => ({ trackId: id, clip })))
      .find(({ clip }) => clip.id === clipId),
    pattern = found && patternOf(project, found.clip);
  if (!found || !pattern || clipsOfPattern(project, pattern.id).length < 2) return null;
  const own: Pattern = { ...pattern, id: newId(), name: `${pattern.name.slice(0, 110)}, own` };
  return {
    kind: 'batch',
    edits: [
      { kind: 'add-pattern', pattern: own },
      { kind: 'set-clip', clipId, trackId: found.trackId, changes: { content: { kind: 'notes', patternId: own.id } } },
    ],
  };
}

/** What the notes of a clip are as it goes with key and chords, written into a pattern of its own that stays. */
export function writeFollowed(project: Project, clipId: string, newId: NewId): Edit | null {
  const found = project.tracks
      .flatMap(({ id, clips }) => clips.map((clip) => ({ trackId: id, clip })))
      .find(({ clip }) => clip.id === clipId),
    pattern = found && patternOf(project, found.clip);
  if (!found || !pattern) return null;
  const { clip, trackId } = found,
    notes = notesOfClip({ ...clip, shiftSemitones: 0 }, pattern, project).map((note) => ({
      ...note,
      id: newId(),
      startBeat: Math.max(0, note.startBeat - clip.startBeat),
    })),
    own: Pattern = {
      ...pattern,
      id: newId(),
      name: `${pattern.name.slice(0, 100)}, as written`,
      lengthBeats: clip.lengthBeats,
      notes,
      key: project.key,
      chords: [],
    };
  return {
    kind: 'batch',
    edits: [
      { kind: 'add-pattern', pattern: own },
      {
        kind: 'set-clip',
        clipId,
        trackId,
        changes: { content: { kind: 'notes', patternId: own.id }, offsetBeats: 0, chordWay: null },
      },
    ],
  };
}

/** What of a clip says how often a bar of its loop comes, which is written into the notes. */
const treatmentOf = ({ overrides }: Clip): string =>
  JSON.stringify([overrides.speedRatio ?? 1, overrides.reverse ?? false, overrides.firstBars ?? null]);

/**
 * Clips of a MIDI loop that play its notes as patterns of the project from now on: all that are treated as the given one is, so that they go on
 * changing together. Of a file with drums and tones the second lies on a track of its own.
 * @param patternsFor its notes as patterns, `beatScale` beats of the project for each of the loop
 */
export function loopToPatterns(
  project: Project,
  clip: Clip,
  source: LoopSource,
  patternsFor: (beatScale: number) => readonly Pattern[],
  newId: NewId,
): { readonly edit: Edit; readonly pattern: Pattern } | null {
  const loopId = loopIdOf(clip),
    { cycleBeats, request } = fitClip(clip, source, project),
    repeats = request.kind === 'notes',
    scale = repeats && request.beats > 0 ? cycleBeats / request.beats : 1,
    made = patternsFor(scale).map((pattern) => {
      const cut = { ...pattern, lengthBeats: Math.max(1 / 4, Math.min(pattern.lengthBeats, cycleBeats)) },
        notes = cut.notes.filter(({ startBeat }) => startBeat < cut.lengthBeats - 1e-6);
      return {
        ...cut,
        notes: request.reverse
          ? inPlayingOrder(
              reversed([...notes, { id: 'edge', startBeat: 0, lengthBeats: cut.lengthBeats, pitch: 0, velocity: 1 }])
                .filter(({ id }) => id !== 'edge')
                .map((note) => ({ ...note, startBeat: Math.max(0, note.startBeat) })),
            )
          : notes,
      };
    });
  if (loopId === null || made.length === 0) return null;
  const alike = project.tracks.flatMap(({ id, clips }) =>
      clips
        .filter((each) => loopIdOf(each) === loopId && treatmentOf(each) === treatmentOf(clip))
        .map((each) => ({ trackId: id, clip: each })),
    ),
    as = (each: Clip, pattern: Pattern): Partial<Clip> => ({
      content: { kind: 'notes', patternId: pattern.id },
      overrides: each.overrides.instrument ? { instrument: each.overrides.instrument } : {},
    }),
    [first, second] = made;
  return {
    pattern: first,
    edit: {
      kind: 'batch',
      edits: [
        ...made.map((pattern): Edit => ({ kind: 'add-pattern', pattern })),
        ...alike.map((each): Edit => ({ kind: 'set-clip', clipId: each.clip.id, trackId: each.trackId, changes: as(each.clip, first) })),
        ...(second
          ? [
              {
                kind: 'add-track' as const,
                index: project.tracks.length,
                track: newTrack({
                  id: newId(),
                  name: `${second.name.slice(0, 110)}, drums`,
                  colour: project.tracks.length % trackColourCount,
                  clips: alike.map((each) => ({ ...each.clip, ...as(each.clip, second), id: newId() })),
                }),
              },
            ]
          : []),
      ],
    },
  };
}
