/** A small piece with three sections, and what is needed to see what acts make of it. */
import { applyEdit, type Edit } from '../../core/arrangement/edit';
import { emptyProject, loopIdOf, type Clip, type Project } from '../../core/arrangement/tree';
import { plainClip, plainTrack } from './track';

export const bar = 4,
  cycle = 8;
let names = 0;
export const newId = () => `new-${names++}`;

/** What sounds at a beat: track, loop and where in its cycle, in order. */
export const soundsAt = (project: Project, beat: number): string[] =>
  project.tracks
    .flatMap((track) =>
      track.clips
        .filter((clip) => beat >= clip.startBeat - 1e-9 && beat < clip.startBeat + clip.lengthBeats - 1e-9)
        .map((clip) => `${track.id} ${loopIdOf(clip)} ${(((beat - clip.startBeat + clip.offsetBeats) % cycle) + cycle) % cycle}`),
    )
    .sort();
export const places = Array.from({ length: 4 * 60 }, (_, k) => k / 4 + 0.125),
  soundsAll = (project: Project) => places.map((beat) => soundsAt(project, beat).join(', '));
/** What sounds at each of these beats, a line each; or what sounds where it came from, nothing where that is null. */
export const soundsAtAll = (beats: readonly number[], project: Project, cameFrom: (beat: number) => number | null = (beat) => beat) =>
  beats.map((beat) => {
    const from = cameFrom(beat);
    return `${beat}: ${from === null ? '' : soundsAt(project, from).join(', ')}`;
  });

export const project: Project = {
  ...emptyProject('Engine Room', 120, null),
  sections: [
    { kind: 'section', id: 'intro', name: 'Intro', startBeat: 0, lengthBeats: 8 },
    { kind: 'section', id: 'main', name: 'Main', startBeat: 8, lengthBeats: 16 },
    { kind: 'section', id: 'out', name: 'Out', startBeat: 24, lengthBeats: 8 },
  ],
  chords: [
    { startBeat: 0, symbol: 'Dm' },
    { startBeat: 8, symbol: 'C' },
    { startBeat: 16, symbol: 'F' },
    { startBeat: 24, symbol: 'Dm' },
  ],
  tracks: [
    plainTrack({ id: 'a', clips: [plainClip({ id: 'a1', loopId: 1, startBeat: 0, lengthBeats: 32 })] }),
    plainTrack({
      id: 'b',
      clips: [
        plainClip({ id: 'b1', loopId: 2, startBeat: 4, lengthBeats: 12, offsetBeats: 2 }),
        plainClip({ id: 'b2', loopId: 3, startBeat: 20, lengthBeats: 6 }),
      ],
    }),
    plainTrack({ id: 'c', clips: [] }),
  ],
};

/** Does it, checks that it can be taken back to the same, and gives what it makes. */
export function done(edit: Edit | null, from: Project = project): Project {
  if (!edit) throw new Error('nothing was done');
  const { project: made, inverse } = applyEdit(from, edit),
    back = applyEdit(made, JSON.parse(JSON.stringify(inverse)) as Edit).project,
    ordered = (each: Project): Project => ({
      ...each,
      tracks: each.tracks.map((track) => ({ ...track, clips: [...track.clips].sort((x, y) => (x.id < y.id ? -1 : 1)) })),
    });
  expect(ordered(back)).toEqual(ordered(from));
  return made;
}
export const clipsOf = (made: Project, track = 'a'): Clip[] =>
  [...(made.tracks.find(({ id }) => id === track)?.clips ?? [])].sort((x, y) => x.startBeat - y.startBeat);
