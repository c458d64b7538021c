import { characterWords, type CharacterMeasures } from './character';

/** On neither side of anything. */
const middle: CharacterMeasures = {
  fallSeconds: 0.3,
  centreHz: 1500,
  flatness: 0.06,
  onsetsPerBeat: 2,
  spreadMs: 10,
  crestDb: 15,
  pitched: true,
};

test('what lies in the middle has no word', () => expect(characterWords(middle)).toEqual([]));

test.each([
  [{ fallSeconds: 0.11 }, 'dry'],
  [{ fallSeconds: 0.71 }, 'roomy'],
  [{ centreHz: 490 }, 'dark'],
  [{ centreHz: 3100 }, 'bright'],
  [{ flatness: 0.01 }, 'clean'],
  [{ flatness: 0.16 }, 'driven'],
  [{ onsetsPerBeat: 0.7 }, 'sparse'],
  [{ onsetsPerBeat: 3.1 }, 'busy'],
  [{ spreadMs: 5 }, 'tight'],
  [{ spreadMs: 15 }, 'loose'],
  [{ crestDb: 10 }, 'soft'],
  [{ crestDb: 20 }, 'punchy'],
])('%o is %s', (measures, word) => expect(characterWords({ ...middle, ...measures })).toEqual([word]));

test('drive is no word for what has no pitch, and without beats nothing is said of them', () => {
  expect(characterWords({ ...middle, flatness: 0.5, pitched: false })).toEqual([]);
  expect(characterWords({ ...middle, onsetsPerBeat: null, spreadMs: null })).toEqual([]);
});

test('several words come in a fixed order', () =>
  expect(characterWords({ ...middle, crestDb: 25, fallSeconds: 0.05, centreHz: 5000 })).toEqual(['dry', 'bright', 'punchy']));
