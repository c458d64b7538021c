import type { Edit } from '../edit';
import same from 'fast-deep-equal';
import { leastClipGainDb, mostClipGainDb, type Clip, type Content, type Project } from '../tree';
import { cutAt, draftOf, editTo, liesWithin, trackOf, withChosen, type NewId } from './parts';

/** How clips sound and what they play: fades, levels, treatment, one repetition apart, others in turn. */

/** Changes several clips, each by what it is. */
export const changeClips = (project: Project, clipIds: readonly string[], change: (clip: Clip) => Partial<Clip>): Edit | null =>
  editTo(
    project,
    withChosen(project, clipIds, (clip) => [{ ...clip, ...change(clip) }]),
  );

/** Silences clips, or lets them sound again where all are silent. */
export function toggleMuted(project: Project, clipIds: readonly string[]): Edit | null {
  const chosen = project.tracks.flatMap(({ clips }) => clips.filter(({ id }) => clipIds.includes(id))),
    muted = !chosen.every((clip) => clip.muted);
  return changeClips(project, clipIds, () => ({ muted }));
}

/** Lets clips come up and go down over so many beats; the two together are as long as the clip at most, and the one that is set has its way. */
export function setFades(
  project: Project,
  clipIds: readonly string[],
  { fadeInBeats, fadeOutBeats }: { readonly fadeInBeats?: number; readonly fadeOutBeats?: number },
): Edit | null {
  return changeClips(project, clipIds, (clip) => {
    const within = (beats: number) => Math.min(clip.lengthBeats, Math.max(0, beats)),
      into = within(fadeInBeats ?? clip.fadeInBeats),
      out = within(fadeOutBeats ?? clip.fadeOutBeats);
    return fadeInBeats === undefined
      ? { fadeInBeats: Math.min(into, clip.lengthBeats - out), fadeOutBeats: out }
      : { fadeInBeats: into, fadeOutBeats: Math.min(out, clip.lengthBeats - into) };
  });
}

/** Where chosen clips overlap on a track, one goes down as the other comes up. @returns null where none do */
export function crossfade(project: Project, clipIds: readonly string[]): Edit | null {
  const draft = draftOf(project),
    chosen = new Set(clipIds);
  for (const [trackId, clips] of draft) {
    const changed = new Map<string, Partial<Clip>>(),
      inOrder = clips.filter(({ id }) => chosen.has(id)).sort((a, b) => a.startBeat - b.startBeat);
    for (const [k, next] of inOrder.entries()) {
      const first = inOrder[k - 1];
      if (!first) continue;
      const over = first.startBeat + first.lengthBeats - next.startBeat;
      if (over <= 1e-6 || over >= next.lengthBeats + 1e-6) continue;
      changed.set(first.id, { ...changed.get(first.id), fadeOutBeats: over });
      changed.set(next.id, { fadeInBeats: over });
    }
    draft.set(
      trackId,
      clips.map((clip) => ({ ...clip, ...changed.get(clip.id) })),
    );
  }
  return editTo(project, draft);
}

/** Transposes clips. @param semitones hundredths are cents */
export const transposeClips = (project: Project, clipIds: readonly string[], semitones: number): Edit | null =>
  changeClips(project, clipIds, ({ shiftSemitones }) => ({
    shiftSemitones: Math.max(-24, Math.min(24, Number((shiftSemitones + semitones).toFixed(2)))),
  }));

/** Makes clips louder or softer by so many dB. */
export const levelClips = (project: Project, clipIds: readonly string[], db: number): Edit | null =>
  changeClips(project, clipIds, ({ gainDb }) => ({ gainDb: Math.max(leastClipGainDb, Math.min(mostClipGainDb, gainDb + db)) }));

/** Clips as their loops came: at their own tempo and pitch, with nothing done to them. Place, length and level stay. */
export const asTheyCame = (project: Project, clipIds: readonly string[]): Edit | null =>
  changeClips(project, clipIds, () => ({
    followTempo: false,
    followKey: false,
    chordWay: null,
    shiftMarks: null,
    shiftSemitones: 0,
    overrides: {},
  }));

/**
 * Repeats only a part of what clips play, a range of beats of the piece, to the end of each clip.
 * @returns null where the range lies in none of them
 */
export function repeatPart(project: Project, clipIds: readonly string[], fromBeat: number, toBeat: number, newId: NewId): Edit | null {
  const length = toBeat - fromBeat;
  if (length < 1 / 16) return null;
  return editTo(
    project,
    withChosen(project, clipIds, (clip) => {
      const end = clip.startBeat + clip.lengthBeats;
      if (fromBeat < clip.startBeat - 1e-6 || toBeat > end + 1e-6) return [clip];
      const [first, ...rest] = cutAt([clip], [fromBeat, toBeat], newId),
        part = fromBeat > clip.startBeat + 1e-6 ? rest[0] : first,
        before = part === first ? [] : [first],
        times = Math.ceil((end - fromBeat) / length - 1e-6);
      return [
        ...before,
        ...Array.from({ length: times }, (_, k) => {
          const startBeat = fromBeat + k * length;
          return {
            ...part,
            id: k === 0 ? part.id : newId(),
            startBeat,
            lengthBeats: Math.min(length, end - startBeat),
            fadeInBeats: k === 0 ? part.fadeInBeats : 0,
            fadeOutBeats: k === times - 1 ? Math.min(clip.fadeOutBeats, end - startBeat) : 0,
          };
        }),
      ];
    }),
  );
}

/** Where a clip's repetitions begin, its own start among them, in beats of the piece. */
export function repetitionLines({ startBeat, lengthBeats, offsetBeats }: Clip, cycleBeats: number): number[] {
  if (!Number.isFinite(cycleBeats) || cycleBeats <= 0) return [startBeat];
  const lines = [startBeat];
  for (let k = Math.floor(offsetBeats / cycleBeats + 1e-6) + 1; ; k++) {
    const line = startBeat - offsetBeats + k * cycleBeats;
    if (line >= startBeat + lengthBeats - 1e-6) return lines;
    lines.push(line);
  }
}

/** Makes the repetition that sounds at a beat a clip of its own, so that it can be changed without the others. */
export function repetitionApart(project: Project, clipId: string, atBeat: number, cycleBeats: number, newId: NewId): Edit | null {
  return editTo(
    project,
    withChosen(project, [clipId], (clip) => {
      const lines = repetitionLines(clip, cycleBeats),
        k = lines.findLastIndex((line) => line <= atBeat + 1e-6);
      return k < 0 || atBeat >= clip.startBeat + clip.lengthBeats ? [clip] : cutAt([clip], lines.slice(k, k + 2), newId);
    }),
  );
}

/** What plays in the repetitions of a clip, by a pattern that goes round; null for the clip's own. */
export interface Variation {
  readonly clipId: string;
  readonly pattern: readonly (Content | null)[];
  readonly cycleBeats: number;
}

/** Lets others play in the repetitions of clips: A A A B, the fill in the last. */
export function varyClips(project: Project, variations: readonly Variation[], newId: NewId): Edit | null {
  const byClip = new Map(variations.filter(({ pattern }) => pattern.length > 0).map((variation) => [variation.clipId, variation]));
  return editTo(
    project,
    withChosen(project, [...byClip.keys()], (clip) => {
      const { pattern = [], cycleBeats = Infinity } = byClip.get(clip.id) ?? {};
      return cutAt([clip], repetitionLines(clip, cycleBeats), newId).map((part, k) => {
        const content = pattern[k % pattern.length];
        return content === null || same(content, clip.content) ? part : { ...part, content };
      });
    }),
  );
}

/** Another loop in the place of clips: place, length, gain and what they follow stay. */
export const playInstead = (project: Project, clipIds: readonly string[], content: Content): Edit | null =>
  changeClips(project, clipIds, () => ({ content }));

/** Cuts clips at the lines of sections. */
export function cutAtSections(project: Project, clipIds: readonly string[], newId: NewId): Edit | null {
  const lines = project.sections.flatMap(({ startBeat, lengthBeats }) => [startBeat, startBeat + lengthBeats]);
  return editTo(
    project,
    withChosen(project, clipIds, (clip) => cutAt([clip], lines, newId)),
  );
}

/** The clips that a section holds, or reaches into. */
export const clipsInSection = (project: Project, sectionId: string): string[] => {
  const section = project.sections.find(({ id }) => id === sectionId);
  return section
    ? project.tracks.flatMap(({ clips }) =>
        clips
          .filter(
            (clip) =>
              clip.startBeat < section.startBeat + section.lengthBeats - 1e-6 &&
              clip.startBeat + clip.lengthBeats > section.startBeat + 1e-6,
          )
          .map(({ id }) => id),
      )
    : [];
};

/** A break that lets what sounds ring on: clips end where it begins, and go down over so many beats behind it. */
export function breakRinging(
  project: Project,
  trackIds: readonly string[],
  from: number,
  to: number,
  ringBeats: number,
  newId: NewId,
): Edit | null {
  const draft = draftOf(project),
    ring = Math.min(ringBeats, to - from);
  for (const trackId of trackIds)
    draft.set(
      trackId,
      cutAt(draft.get(trackId) ?? [], [from, from + ring, to], newId).flatMap((clip) => {
        if (liesWithin(clip, from, from + ring)) return [{ ...clip, fadeOutBeats: clip.lengthBeats }];
        return liesWithin(clip, from, to) ? [] : [clip];
      }),
    );
  return editTo(project, draft);
}

/** The clip right before or behind one on its track; null at the end. */
export function neighbourOf(project: Project, clipId: string, by: 1 | -1): string | null {
  const inOrder = [...(trackOf(project, clipId)?.clips ?? [])].sort((a, b) => a.startBeat - b.startBeat);
  return inOrder[inOrder.findIndex(({ id }) => id === clipId) + by]?.id ?? null;
}
