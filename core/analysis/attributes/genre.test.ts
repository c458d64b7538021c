import { fuse } from '../evidence/fuse';
import { evidence } from '../facts';
import { labelsOfNames } from '../labels';

const genreOf = (path: string, genreTag: string | null = null) =>
  fuse(
    'genre',
    labelsOfNames({ path, genreTag }).filter(({ attribute }) => attribute === 'genre'),
  );

test.each([
  ['Deep House Keys/Chords 120 Am.wav', null, ['house']],
  ['Pack/DnB_Break_174.wav', null, ['drum-and-bass']],
  ['Pack/Jazzy Lo-Fi Keys 80.wav', null, ['lo-fi', 'jazz']],
  ['Pack/Loop 01.wav', 'Funk; Soul', ['funk', 'soul']],
  ['Pack/TrapHats 140.wav', null, ['trap']],
])('%s, tagged %p: %p', (path, tag, wanted) => expect([...(genreOf(path, tag)?.value ?? [])].sort()).toEqual([...wanted].sort()));
test.each(['Pack/Guitar Trapeze 90.wav', 'Subway/Rocket 120.wav', 'Pack/Poplar Keys.wav', 'Pack/Loop 01.wav'])(
  '%s says nothing of it',
  (path) => expect(genreOf(path)).toBeNull(),
);
test('several sources that say the same are surer than one', () => {
  const one = genreOf('House/Loop 01.wav')?.confidence ?? 0,
    two = genreOf('House/House Loop 01.wav')?.confidence ?? 0;
  expect(one).toBeGreaterThan(0.5);
  expect(two).toBeGreaterThan(one);
  expect(two).toBeLessThan(1);
});
test('a person’s word is all of it, also that it is none; what else was said stays as a rival', () => {
  const said = labelsOfNames({ path: 'House/Loop.wav', genreTag: null }),
    mine = (value: readonly string[]) =>
      fuse('genre', [...said, evidence('genre', 'person', [{ value, probability: 1 }], 'corrected by hand')]);
  expect(mine(['dub', 'techno'])).toMatchObject({ value: ['dub', 'techno'], confidence: 1, source: 'person' });
  expect(mine(['dub'])?.alternatives.map(({ value }) => value)).toEqual([['house']]);
  expect(mine([])?.value).toEqual([]);
});
