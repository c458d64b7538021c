import { cutAt, type NewId } from '../arrangement/acts/parts';
import { keyAt } from '../arrangement/harmony/harmony';
import { newTrack, type Clip, type Project, type Track } from '../arrangement/tree';

/** What rings on behind the end: let into the start, so that the loop goes round as the piece would; kept behind it; or left away. */
export type Tail = 'wrap' | 'keep' | 'cut';

/** A part of a project: some of its tracks, or some of their clips, from one beat to another. */
export interface PartAsked {
  readonly trackIds: readonly string[];
  /** Only these clips; null for all that the tracks play there. */
  readonly clipIds: readonly string[] | null;
  readonly fromBeat: number;
  readonly toBeat: number;
  readonly tail: Tail;
}

/**
 * A part of a project as a piece of its own that begins at beat 0: cut at its edges, at its own level, heard whatever is soloed elsewhere.
 * @param playsOnce whether a clip rings on by itself: such a one is not cut at the end, for its tail is wanted
 */
export function partOf(project: Project, name: string, asked: PartAsked, playsOnce: (clip: Clip) => boolean): Project {
  const { trackIds, clipIds, fromBeat, toBeat, tail } = asked,
    lengthBeats = toBeat - fromBeat,
    wanted = new Set(trackIds),
    chosen = clipIds && new Set(clipIds);
  let made = 0;
  const newId: NewId = () => `part-${made++}`,
    within = (clip: Clip): Clip[] =>
      cutAt([clip], tail !== 'cut' && playsOnce(clip) ? [fromBeat] : [fromBeat, toBeat], newId)
        .filter(({ startBeat }) => startBeat >= fromBeat - 1e-6 && startBeat < toBeat - 1e-6)
        .map((part) => ({ ...part, startBeat: Math.max(0, part.startBeat - fromBeat) })),
    trackPart = (track: Track): Track => ({
      ...track,
      soloed: false,
      setAside: false,
      clips: track.clips.filter(({ id }) => !chosen || chosen.has(id)).flatMap(within),
    });
  const chordAtStart = project.chords.findLast(({ startBeat }) => startBeat <= fromBeat + 1e-6);
  const sectionsInside = project.sections.filter(({ key, startBeat }) => key && startBeat > fromBeat + 1e-6 && startBeat < toBeat - 1e-6);
  return {
    ...project,
    name,
    masterGainDb: 0,
    key: keyAt(project, fromBeat),
    sections: [
      { kind: 'section', id: 'part', name: name.slice(0, 120), startBeat: 0, lengthBeats },
      ...sectionsInside.map((section) => ({ ...section, startBeat: section.startBeat - fromBeat })),
    ],
    chords: [
      ...(chordAtStart ? [{ ...chordAtStart, startBeat: 0 }] : []),
      ...project.chords
        .filter(({ startBeat }) => startBeat > fromBeat + 1e-6 && startBeat < toBeat - 1e-6)
        .map((chord) => ({ ...chord, startBeat: chord.startBeat - fromBeat })),
    ],
    tracks: project.tracks.filter(({ id }) => wanted.has(id)).map(trackPart),
  };
}

/** A part without what is muted in it, and without tracks that play nothing: what is given away. */
export function heardPart(part: Project): Project {
  const tracks = part.tracks
      .filter(({ muted }) => !muted)
      .map((track) => ({ ...track, clips: track.clips.filter(({ muted }) => !muted) }))
      .filter(({ clips }) => clips.length > 0)
      .map((track) => newTrack(track)),
    played = new Set(tracks.flatMap(({ clips }) => clips.flatMap(({ content }) => (content.kind === 'notes' ? content.patternId : []))));
  return { ...part, tracks, patterns: part.patterns.filter(({ id }) => played.has(id)) };
}
