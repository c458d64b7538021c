import { applyEdit } from '~core/arrangement/edit';
import { heardTracks } from '~core/arrangement/tree';
import { project } from '../../../test/generators/piece';
import { askedOfClips, askedOfTracks } from './give-back';
import { oneInstrument, oneOfEach, onlyPart, together, tracksWithin, without } from './loops-to-make';

const [a, b] = project.tracks,
  section = { name: 'Main', trackIds: ['a', 'b', 'c'], clipIds: null, fromBeat: 8, toBeat: 24 };

test('of clips: from where the first begins to where the last ends, by their track where it is one', () => {
  expect(askedOfClips(project, ['b1', 'b2'])).toEqual({
    name: 'Engine Room T',
    trackIds: ['b'],
    clipIds: ['b1', 'b2'],
    fromBeat: 4,
    toBeat: 26,
  });
  expect(askedOfClips(project, ['a1', 'b1'])).toMatchObject({ trackIds: ['a', 'b'], fromBeat: 0, toBeat: 32 });
});
test('of tracks: over the range where there is one, else over what they play; of nothing there is nothing', () => {
  expect(askedOfTracks(project, ['b'], null)).toMatchObject({ clipIds: null, fromBeat: 4, toBeat: 26 });
  expect(askedOfTracks(project, ['b'], { startBeat: 8, endBeat: 16 })).toMatchObject({ fromBeat: 8, toBeat: 16 });
  expect(askedOfTracks(project, ['c'], null)).toBeNull();
});
test('tracks that play in it, by all their clips or the chosen ones', () => {
  expect(tracksWithin(project, section).map(({ id }) => id)).toEqual(['a', 'b']);
  expect(tracksWithin(project, { ...section, clipIds: ['b1'] }).map(({ id }) => id)).toEqual(['b']);
  expect(tracksWithin(project, { ...section, fromBeat: 40, toBeat: 48 })).toEqual([]);
});
test('all together, one of each, all without one: named, with their part of the set', () => {
  expect(together(0, 'Main', [a, b])).toEqual({ key: 0, name: 'Main', setRole: 'full', trackIds: ['a', 'b'] });
  expect(together(0, 'Main', [a]).setRole).toBeNull();
  expect(oneOfEach(5, 'Main', [a, b])).toEqual([
    { key: 5, name: 'Main T', setRole: 'stem', trackIds: ['a'] },
    { key: 6, name: 'Main T', setRole: 'stem', trackIds: ['b'] },
  ]);
  expect(without(7, 'Main', [a, b], a)).toEqual({ key: 7, name: 'Main no t', setRole: 'thin', trackIds: ['b'] });
});
test('what is heard of it is only its tracks, and of them only the chosen clips', () => {
  const heard = (trackIds: readonly string[], clipIds: readonly string[] | null) =>
    heardTracks(applyEdit(project, onlyPart(project, trackIds, clipIds)).project).map(
      ({ id, clips }) => `${id}: ${clips.map((clip) => clip.id).join()}`,
    );
  expect(heard(['b'], null)).toEqual(['b: b1,b2']);
  expect(heard(['a', 'b'], ['b2', 'a1'])).toEqual(['a: a1', 'b: b2']);
});
test('its instrument, where all play the same; unknown loops have none', () => {
  const loops = new Map([1, 2, 3].map((id) => [id, { source: { instrument: id === 1 ? 'piano' : 'shaker' } }])) as never;
  expect(oneInstrument([a], loops)).toBe('piano');
  expect(oneInstrument([b], loops)).toBe('shaker');
  expect(oneInstrument([a, b], loops)).toBeNull();
  expect(oneInstrument([a], new Map())).toBeNull();
});
