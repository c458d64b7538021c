import type { PlacedChord } from '../theory/chord-line';
import type { Key } from '../theory/key';
import type { KeptOverrides } from './fit-settings';
import type { Pattern } from './pattern/pattern';

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
  /** Notes that clips play, each as often as it is placed. */
  readonly patterns: readonly Pattern[];
  readonly tracks: readonly Track[];
}

export interface Section {
  readonly kind: 'section';
  readonly id: string;
  readonly name: string;
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** From here on the piece is in another key, until a section says otherwise; left out or null: as before. */
  readonly key?: Key | null;
}
export type ChordMark = PlacedChord;

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
  /** Kept, but out of the piece: silent, folded away, and nothing is made ready for it. */
  readonly setAside: boolean;
  readonly clips: readonly Clip[];
}

/** What a clip plays; told apart by its kind. */
export type Content = LoopContent | NotesContent;
export interface LoopContent {
  readonly kind: 'loop';
  readonly loopId: number;
}
/** Notes of the project, round and round. */
export interface NotesContent {
  readonly kind: 'notes';
  readonly patternId: string;
}

/** From a beat of a clip's content on, moved by so much: what was settled by hand instead of what the chords ask for. */
export interface ShiftMark {
  /** From the beginning of the content as it is placed: the beat at which its first repetition begins is 0. */
  readonly atBeat: number;
  readonly semitones: number;
}

/** How a clip goes with the chords of the piece: by its roots, or note by note. */
export type ChordWay = 'roots' | 'notes';

export interface Clip {
  readonly kind: 'clip';
  readonly id: string;
  readonly content: Content;
  readonly startBeat: number;
  readonly lengthBeats: number;
  /** Where in its content the clip begins, in beats as fitted. */
  readonly offsetBeats: number;
  readonly gainDb: number;
  /** From its start it comes up, and towards its end it goes down, over so many beats. */
  readonly fadeInBeats: number;
  readonly fadeOutBeats: number;
  readonly muted: boolean;
  /** Of what plays once: so far behind the clip’s start it lands, whatever its speed; null: it begins with the clip. */
  readonly landsAfterBeats: number | null;
  /** Beyond what following the key does. */
  readonly shiftSemitones: number;
  readonly followTempo: boolean;
  readonly followKey: boolean;
  /** How its chords become those of the piece; null: they stay. */
  readonly chordWay: ChordWay | null;
  /** Settled by hand; null: as the chords ask for. */
  readonly shiftMarks: readonly ShiftMark[] | null;
  /** What else is done to it; empty: nothing. */
  readonly overrides: KeptOverrides;
}

type SaidOfClip = Pick<Clip, 'id' | 'startBeat' | 'lengthBeats'> & Partial<Omit<Clip, 'kind' | 'content'>>;

/** A clip of a loop, as it is where nothing is said: from the loop's start, untreated, following tempo and key. */
export const newClip = ({ loopId, ...said }: SaidOfClip & { readonly loopId: number }): Clip => newClipOf({ kind: 'loop', loopId }, said);

/** The same of any content. */
export const newClipOf = (content: Content, said: SaidOfClip): Clip => ({
  kind: 'clip',
  content,
  offsetBeats: 0,
  gainDb: 0,
  fadeInBeats: 0,
  fadeOutBeats: 0,
  muted: false,
  landsAfterBeats: null,
  shiftSemitones: 0,
  followTempo: true,
  followKey: true,
  chordWay: null,
  shiftMarks: null,
  overrides: {},
  ...said,
});

/** A track with nothing done to it yet. */
export const newTrack = (said: Pick<Track, 'id' | 'name'> & Partial<Omit<Track, 'kind'>>): Track => ({
  kind: 'track',
  colour: 0,
  gainDb: 0,
  pan: 0,
  muted: false,
  soloed: false,
  setAside: false,
  clips: [],
  ...said,
});

/** The loop that a clip plays; null where it plays notes of the project. */
export const loopIdOf = ({ content }: Pick<Clip, 'content'>): number | null => (content.kind === 'loop' ? content.loopId : null);

/** What is kept of a clip's loop, if it plays one that is there. */
export const ofLoop = <T>(byLoop: ReadonlyMap<number, T>, clip: Pick<Clip, 'content'>): T | undefined => {
  const loopId = loopIdOf(clip);
  return loopId === null ? undefined : byLoop.get(loopId);
};

/** The loops that tracks play, each once. */
export const loopIdsOf = (tracks: readonly Track[]): number[] => [
  ...new Set(tracks.flatMap(({ clips }) => clips.flatMap((clip) => loopIdOf(clip) ?? []))),
];

/** The pattern that a clip plays; null where it plays a loop, or the pattern is gone. */
export const patternOf = ({ patterns }: Pick<Project, 'patterns'>, { content }: Pick<Clip, 'content'>): Pattern | null =>
  content.kind === 'notes' ? (patterns.find(({ id }) => id === content.patternId) ?? null) : null;

/** The loops that a project is made of, each once: those that tracks play, and those whose notes its patterns are. */
export function loopIdsIn({ tracks, patterns }: Pick<Project, 'tracks' | 'patterns'>): number[] {
  const played = new Set(
    tracks.flatMap(({ clips }) => clips.flatMap(({ content }) => (content.kind === 'notes' ? content.patternId : []))),
  );
  return [
    ...new Set([
      ...loopIdsOf(tracks),
      ...patterns.flatMap(({ id, fromLoopId }) => (fromLoopId !== null && played.has(id) ? fromLoopId : [])),
    ]),
  ];
}

export const trackColourCount = 6;

/** What brings a quiet loop to an even loudness may raise it by more than a track is ever raised. */
export const leastClipGainDb = -60,
  mostClipGainDb = 30;

/** A project with nothing in it yet. @param key null where none is settled */
export function emptyProject(name: string, tempoBpm: number, key: Key | null, meter = '4/4'): Project {
  return { kind: 'project', name, tempoBpm, key, meter, masterGainDb: 0, sections: [], chords: [], patterns: [], tracks: [] };
}

/** The beat at which the last clip in the piece ends, 0 for an empty project. */
export const projectEndBeat = (project: Project): number =>
  project.tracks
    .flatMap(({ setAside, clips }) => (setAside ? [] : clips))
    .reduce((latest, clip) => Math.max(latest, clip.startBeat + clip.lengthBeats), 0);

/** A clip and the track it lies on; null when there is none of that id. */
export function findClip(project: Project, clipId: string): { track: Track; clip: Clip } | null {
  for (const track of project.tracks) for (const clip of track.clips) if (clip.id === clipId) return { track, clip };
  return null;
}

/** Tracks that sound: of those in the piece the ones that are not muted, and soloed where any is. */
export function audibleTracks(project: Project): readonly Track[] {
  const inPiece = project.tracks.filter((track) => !track.setAside),
    anySolo = inPiece.some((track) => track.soloed);
  return inPiece.filter((track) => !track.muted && (!anySolo || track.soloed));
}

/** The tracks that sound with the clips of them that do: what is heard, and what a piece is made of when it is given away. */
export const heardTracks = (project: Project): readonly Track[] =>
  audibleTracks(project).map((track) => ({ ...track, clips: track.clips.filter(({ muted }) => !muted) }));
