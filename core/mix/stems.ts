import type { Schedule } from '../arrangement/schedule';
import type { Project, Track } from '../arrangement/tree';
import { fileNameOf } from '../names/file-name';
import { renderMix, type FittedBuffers } from './render';

/** One track of a piece as a sound as long as the piece, at its level and place in it: laid side by side from the start, stems sum up to the mixdown. */
export interface Stem {
  readonly trackId: string;
  /** As a file is called without its ending: the track's place in the piece and its name. */
  readonly fileName: string;
  /** Left and right. */
  readonly channels: readonly [Float32Array, Float32Array];
}

/**
 * Names for files of tracks: two digits or more, so that they stand in the order of the piece, and what the track is called.
 * @example trackFileName('Bass: low', 3, 12) // => '03 Bass- low'
 */
export const trackFileName = (name: string, place: number, of: number): string =>
  `${String(place).padStart(Math.max(2, String(of).length), '0')} ${fileNameOf(name, 'Track')}`;

/** The tracks that sound in a schedule, in the order of the piece, and how their files are called. */
export function soundingTracks(
  project: Project,
  schedule: Pick<Schedule, 'events'>,
): readonly { readonly track: Track; readonly fileName: string }[] {
  const ids = new Set(schedule.events.map(({ trackId }) => trackId)),
    tracks = project.tracks.filter(({ id }) => ids.has(id));
  return tracks.map((track, index) => ({ track, fileName: trackFileName(track.name, index + 1, tracks.length) }));
}

/**
 * The tracks that sound in a schedule, one after the other, each made when it is asked for: of a long piece only one is in memory.
 * @param schedule of the whole piece: what a track plays hangs on the piece's harmony, solos and mutes
 */
export function* renderStems(project: Project, schedule: Schedule, buffers: FittedBuffers): Generator<Stem> {
  for (const { track, fileName } of soundingTracks(project, schedule)) {
    const events = schedule.events.filter(({ trackId }) => trackId === track.id),
      { channels } = renderMix({ ...project, tracks: [track] }, { ...schedule, events }, buffers);
    yield { trackId: track.id, fileName, channels };
  }
}
