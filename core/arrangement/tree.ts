import type { Key } from '../theory/key';
import type { KeptOverrides } from './fit-settings';

/** A project as readonly data. Beats count from 0 at bar 1; ids are made by whoever makes the thing. */
export interface Project {
  readonly kind: 'project';
  readonly name: string;
  readonly tempoBpm: number;
  readonly key: Key | null;
  readonly meter: string;
  readonly masterGainDb: number;
  readonly sections: readonly Section[];
  readonly chords: readonly ChordMark[];
  readonly tracks: readonly Track[];
}

export interface Section {
  readonly kind: 'section';
  readonly id: string;
  readonly name: string;
  readonly startBeat: number;
  readonly lengthBeats: number;
}
export interface ChordMark {
  readonly startBeat: number;
  readonly symbol: string;
}

export interface Track {
  readonly kind: 'track';
  readonly id: string;
  readonly name: string;
  /** Index into the track colours of the theme. */
  readonly colour: number;
  readonly gainDb: number;
  /** −1 left … 1 right. */
  readonly pan: number;
  readonly muted: boolean;
  readonly soloed: boolean;
  readonly clips: readonly Clip[];
}

export interface Clip {
  readonly kind: 'clip';
  readonly id: string;
  readonly loopId: number;
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** Where in the loop the clip begins, in beats of the loop as fitted. */
  readonly offsetBeats: number;
  readonly gainDb: number;
  /** Beyond what following the key does. */
  readonly shiftSemitones: number;
  readonly followTempo: boolean;
  readonly followKey: boolean;
  /** What else is done to the loop; left out: nothing. */
  readonly overrides?: KeptOverrides;
}

export const trackColourCount = 6;

/** What brings a quiet loop to an even loudness may raise it by more than a track is ever raised. */
export const leastClipGainDb = -60,
  mostClipGainDb = 30;

/** A project with nothing in it yet. @param key null where none is settled */
export function emptyProject(name: string, tempoBpm: number, key: Key | null, meter = '4/4'): Project {
  return { kind: 'project', name, tempoBpm, key, meter, masterGainDb: 0, sections: [], chords: [], tracks: [] };
}

/** The beat at which the last clip ends, 0 for an empty project. */
export function projectEndBeat(project: Project): number {
  return Math.max(0, ...project.tracks.flatMap((track) => track.clips.map((clip) => clip.startBeat + clip.lengthBeats)));
}

/** A clip and the track it lies on; null when there is none of that id. */
export function findClip(project: Project, clipId: string): { track: Track; clip: Clip } | null {
  for (const track of project.tracks) for (const clip of track.clips) if (clip.id === clipId) return { track, clip };
  return null;
}

/** Tracks that sound: not muted, and soloed where any is. */
export function audibleTracks(project: Project): readonly Track[] {
  const anySolo = project.tracks.some((track) => track.soloed);
  return project.tracks.filter((track) => !track.muted && (!anySolo || track.soloed));
}
