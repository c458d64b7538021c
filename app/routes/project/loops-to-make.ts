import type { Edit } from '~core/arrangement/edit';
import type { Pattern } from '~core/arrangement/pattern/pattern';
import { ofLoop, patternOf, type Clip, type Project, type Track } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import type { GiveBackAsked } from './give-back';

/** One of the loops that are made of a part: which of its tracks sound in it. */
export interface LoopToMake {
  readonly key: number;
  readonly name: string;
  readonly setRole: string | null;
  readonly trackIds: readonly string[];
}

/** Tracks of the part that play something in it. */
export function tracksWithin(project: Project, { trackIds, clipIds, fromBeat, toBeat }: GiveBackAsked): Track[] {
  const chosen = clipIds && new Set(clipIds);
  return project.tracks.filter(
    (track) =>
      trackIds.includes(track.id) &&
      track.clips.some(
        (clip) => (!chosen || chosen.has(clip.id)) && clip.startBeat < toBeat - 1e-6 && clip.startBeat + clip.lengthBeats > fromBeat + 1e-6,
      ),
  );
}

/** All tracks together. */
export const together = (key: number, name: string, tracks: readonly Track[]): LoopToMake => ({
  key,
  name,
  setRole: tracks.length > 1 ? 'full' : null,
  trackIds: tracks.map(({ id }) => id),
});

/** Each track by itself. */
export const oneOfEach = (key: number, name: string, tracks: readonly Track[]): LoopToMake[] =>
  tracks.map((track, k) => ({ key: key + k, name: `${name} ${track.name}`, setRole: 'stem', trackIds: [track.id] }));

/** All without one of them. */
export const without = (key: number, name: string, tracks: readonly Track[], left: Track): LoopToMake => ({
  key,
  name: `${name} no ${left.name.toLowerCase()}`,
  setRole: 'thin',
  trackIds: tracks.filter(({ id }) => id !== left.id).map(({ id }) => id),
});

/** The edit that lets only a part sound, for hearing it: of the other tracks nothing, and of these the chosen clips. */
export function onlyPart(project: Project, trackIds: readonly string[], clipIds: readonly string[] | null): Edit {
  const chosen = clipIds && new Set(clipIds);
  return {
    kind: 'batch',
    edits: project.tracks.flatMap((track): Edit[] =>
      trackIds.includes(track.id)
        ? [
            { kind: 'set-track', trackId: track.id, changes: { soloed: true } },
            ...track.clips
              .filter(({ id }) => chosen && !chosen.has(id))
              .map((clip): Edit => ({ kind: 'set-clip', clipId: clip.id, trackId: track.id, changes: { muted: true } })),
          ]
        : [{ kind: 'set-track', trackId: track.id, changes: { soloed: false } }],
    ),
  };
}

/** The instrument of what tracks play, where it is one and the same; null where it is not. */
export function oneInstrument(
  tracks: readonly Track[],
  loops: ReadonlyMap<number, WholeLoop>,
  patterns: readonly Pattern[] = [],
): string | null {
  const of = (clip: Clip): string | null => {
      const pattern = patternOf({ patterns }, clip);
      if (pattern) return pattern.isDrums ? 'kit' : (clip.overrides.instrument ?? pattern.instrument);
      return ofLoop(loops, clip)?.source.instrument ?? null;
    },
    found = new Set(tracks.flatMap(({ clips }) => clips.map(of)));
  return found.size === 1 ? ([...found][0] ?? null) : null;
}
