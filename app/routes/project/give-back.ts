import { createStore } from 'zustand/vanilla';
import type { Project } from '~core/arrangement/tree';

/** What of the project is to be given back, as it was asked for: on the bars, by tracks or by clips. */
export interface GiveBackAsked {
  readonly name: string;
  readonly trackIds: readonly string[];
  readonly clipIds: readonly string[] | null;
  readonly fromBeat: number;
  readonly toBeat: number;
}

/** Whoever shows the timeline opens the dialog when something is asked for here. */
export const giveBackAsked = createStore<{ readonly asked: GiveBackAsked | null }>(() => ({ asked: null }));

export const askToGiveBack = (asked: GiveBackAsked | null): void => giveBackAsked.setState({ asked });

/** From the start of the first to the end of the last of some clips. */
const extentOf = (clips: readonly { readonly startBeat: number; readonly lengthBeats: number }[]) => ({
  fromBeat: Math.min(...clips.map(({ startBeat }) => startBeat)),
  toBeat: Math.max(...clips.map(({ startBeat, lengthBeats }) => startBeat + lengthBeats)),
});

/** Some clips, from where the first begins to where the last ends. */
export function askedOfClips(project: Project, clipIds: readonly string[]): GiveBackAsked {
  const tracks = project.tracks.filter(({ clips }) => clips.some(({ id }) => clipIds.includes(id))),
    clips = tracks.flatMap((track) => track.clips).filter(({ id }) => clipIds.includes(id));
  return {
    name: `${project.name} ${tracks.length === 1 ? tracks[0].name : ''}`.trim().slice(0, 120),
    trackIds: tracks.map(({ id }) => id),
    clipIds,
    ...extentOf(clips),
  };
}

/** Some tracks, over a range, or from their first clip to their last. @returns null where they play nothing */
export function askedOfTracks(
  project: Project,
  trackIds: readonly string[],
  range: { readonly startBeat: number; readonly endBeat: number } | null,
): GiveBackAsked | null {
  const tracks = project.tracks.filter(({ id }) => trackIds.includes(id)),
    clips = tracks.flatMap((track) => track.clips);
  if (clips.length === 0) return null;
  return {
    name: `${project.name} ${tracks.length === 1 ? tracks[0].name : ''}`.trim().slice(0, 120),
    trackIds,
    clipIds: null,
    ...(range ? { fromBeat: range.startBeat, toBeat: range.endBeat } : extentOf(clips)),
  };
}
