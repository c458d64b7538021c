import { characters } from '../../theory/characters';
import { fuse } from '../evidence/fuse';
import type { Evidence } from '../facts';
import { labelsOfCharacter, labelsOfNames } from '../labels';
import { characterWords } from '../rhythm/character';

const characterOf = (said: readonly Evidence[]) => fuse('character', said),
  ids = characters.map(({ id }) => id),
  middle = { fallSeconds: 0.4, centreHz: 1200, flatness: 0.08, onsetsPerBeat: 2, spreadMs: 10, crestDb: 15, pitched: true };

test('every word that is measured is one of the table', () => {
  const low = { ...middle, fallSeconds: 0, centreHz: 100, flatness: 0, onsetsPerBeat: 0, spreadMs: 0, crestDb: 0 },
    high = { ...middle, fallSeconds: 2, centreHz: 9000, flatness: 1, onsetsPerBeat: 9, spreadMs: 90, crestDb: 40 },
    words = [...characterWords(low), ...characterWords(high)];
  expect(words).toHaveLength(12);
  expect(words.filter((word) => !ids.includes(word))).toEqual([]);
});
test('what names say and what is measured stand beside each other; where they agree, the word is surer', () => {
  const named = labelsOfNames({ path: 'Pack/Warm Dark Keys.wav', genreTag: 'dark' }),
    alone = characterOf(named),
    both = characterOf([...named, ...labelsOfCharacter(['dark', 'tight'])]);
  expect([...(alone?.value ?? [])].sort()).toEqual(['dark', 'warm']);
  expect([...(both?.value ?? [])].sort()).toEqual(['dark', 'tight', 'warm']);
  expect(both?.reasons).toEqual(['name says dark, warm', 'measured: dark, tight']);
  expect(characterOf(labelsOfCharacter(['dark']))?.confidence).toBeLessThan(
    characterOf([...labelsOfNames({ path: 'Dark.wav', genreTag: null }), ...labelsOfCharacter(['dark'])])?.confidence ?? 0,
  );
});
test.each(['Pack/Darkwater Keys.wav', 'Pack/Hardware 01.wav', 'Pack/Brightling.wav'])('%s says nothing of it', (path) =>
  expect(characterOf(labelsOfNames({ path, genreTag: null }))).toBeNull(),
);
test('nothing measured, nothing said', () => expect(labelsOfCharacter([])).toEqual([]));
