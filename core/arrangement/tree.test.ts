import { plainClip, plainTrack } from '../../test/generators/track';
import { emptyProject, heardTracks, loopIdsOf, projectEndBeat, type Project, type Track } from './tree';

const piece = (...tracks: Track[]): Project => ({ ...emptyProject('Piece', 120, null), tracks }),
  track = (id: string, changes: Partial<Track> = {}) =>
    plainTrack({
      id,
      clips: [plainClip({ id: `${id}1`, loopId: 1 }), plainClip({ id: `${id}2`, loopId: 2, startBeat: 16, muted: true })],
      ...changes,
    }),
  heard = (project: Project) => heardTracks(project).flatMap(({ clips }) => clips.map(({ id }) => id));

test('heard is what is neither muted itself, nor on a track that is, nor set aside', () => {
  expect(heard(piece(track('a'), track('b', { muted: true }), track('c', { setAside: true })))).toEqual(['a1']);
});

test('a solo leaves the others out, but not one that is set aside', () => {
  expect(heard(piece(track('a'), track('b', { soloed: true })))).toEqual(['b1']);
  expect(heard(piece(track('a'), track('b', { soloed: true, setAside: true })))).toEqual(['a1']);
});

test('a piece ends with its last clip, muted or not; what is set aside is no part of it', () => {
  expect(projectEndBeat(piece(track('a')))).toBe(32);
  expect(projectEndBeat(piece(track('a', { setAside: true })))).toBe(0);
  expect(projectEndBeat(piece())).toBe(0);
});

test('loops are named once', () => expect(loopIdsOf([track('a'), track('b')])).toEqual([1, 2]));
