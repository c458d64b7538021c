import { emptyQuery, hasFilters, parseLoopQuery, queryToParameters, toggled, type LoopQuery } from './query';
import { coarseScore } from './fit/coarse';
import { readLine } from './line';

const searchTerms = (text: string) => readLine(text).parts.map(({ meaning }) => (meaning.kind === 'word' ? meaning.word : meaning.kind));
const read = (text: string) => parseLoopQuery(new URLSearchParams(text));

test('an address says it all: what is written reads back', () => {
  const query: LoopQuery = {
    words: 'tin roof',
    chosen: { family: ['drums'], instrument: ['kick', 'snare'], kind: ['loop'], key: ['5m', 'un', 'no'], bars: ['4'], pack: ['2'] },
    tempo: { fromBpm: 90, toBpm: 110 },
    favourites: true,
    ranges: { shift: { from: -2, to: 3 }, brightness: { from: 1.5, to: 4 } },
    near: { kind: 'like', ids: [4, 9], sound: 1, rhythm: 0.5, harmony: 0 },
    sort: 'tempo',
    descending: false,
  };
  expect(parseLoopQuery(queryToParameters(query))).toEqual(query);
  expect(queryToParameters(emptyQuery)).toEqual([]);
});
test('tracks of the project stand in an address, and what is no track’s name does not', () => {
  const near = { kind: 'tracks', trackIds: ['lead', 'b-2'] } as const;
  expect(read(new URLSearchParams(queryToParameters({ ...emptyQuery, near })).toString()).near).toEqual(near);
  expect(read('near=tracks:lead.lead.%3Cx%3E').near).toEqual({ kind: 'tracks', trackIds: ['lead'] });
  expect(read('near=tracks:').near).toBeNull();
  // All tracks of a large piece may be chosen.
  const many = { kind: 'tracks', trackIds: Array.from({ length: 40 }, (_, k) => `t${k}`) } as const;
  expect(read(new URLSearchParams(queryToParameters({ ...emptyQuery, near: many })).toString()).near).toEqual(many);
});
test.each([
  'tempo=abc',
  'tempo=120-90',
  'key=12m&key=x',
  'bars=0&bars=1.5&bars=abc',
  'pack=-1',
  'kind=song',
  'family=__proto__',
  'sort=drop',
  'instrument=theremin',
])('what cannot be understood is left out: %s', (text) => expect(read(text)).toEqual(emptyQuery));
test('newest first unless told; other columns rise', () =>
  expect([read('').descending, read('sort=title').descending, read('sort=title&dir=desc').descending, read('sort=fit').descending]).toEqual(
    [true, false, true, true],
  ));
test('toggling and filters', () => {
  const drums = { ...emptyQuery, chosen: { family: ['drums'] } };
  expect(toggled(drums, 'family', 'drums')).toEqual({});
  expect(toggled(drums, 'family', 'bass')).toEqual({ family: ['drums', 'bass'] });
  expect(toggled(drums, 'key', '2m')).toEqual({ family: ['drums'], key: ['2m'] });
  expect([hasFilters(emptyQuery), hasFilters({ ...emptyQuery, sort: 'title' }), hasFilters({ ...emptyQuery, words: 'x' })]).toEqual([
    false,
    false,
    true,
  ]);
});
test('words of any script are terms, and what holds no letter is none', () => {
  expect(searchTerms('ночной паром')).toEqual(['ночнои', 'паром']);
  expect(searchTerms('夜 フェリー')).toEqual(['夜', 'フェリー'.normalize('NFKD').replace(/[\u0300-\u036f]/g, '')]);
  expect(searchTerms('… 🥁 !')).toEqual([]);
});
test('words become terms: accents, case and signs go', () =>
  expect(searchTerms('  Café “F♯ minor” d’été; DROP ')).toEqual(['cafe', 'fsharp', 'minor', 'd', 'ete', 'drop']));
test('fit: nothing to do is 100; stretch and shift cost; unpitched never shifts', () => {
  const project = { tempoBpm: 120, key: { tonic: 0, mode: 'major' as const } },
    loop = { tempoBpm: 120, key: { tonic: 9, mode: 'minor' as const }, pitched: true, family: 'keys' as const };
  expect(coarseScore(loop, project)).toBe(100);
  expect(coarseScore({ ...loop, tempoBpm: 60 }, project)).toBe(100);
  expect(coarseScore({ ...loop, tempoBpm: 132 }, project)).toBeLessThan(80);
  expect(coarseScore({ ...loop, key: { tonic: 3, mode: 'major' } }, project)).toBeLessThan(
    coarseScore({ ...loop, key: { tonic: 2, mode: 'major' } }, project),
  );
  expect(coarseScore({ ...loop, key: null, pitched: false, family: 'drums' }, project)).toBe(100);
});
test('no key is asked for where none is compared', () => {
  const loop = { tempoBpm: 120, key: null, pitched: true, family: 'keys' as const },
    keyed = { tempoBpm: 120, key: { tonic: 0, mode: 'major' as const } };
  expect(coarseScore(loop, { tempoBpm: 120, key: null })).toBe(100);
  expect(coarseScore({ ...loop, family: 'drums' }, keyed)).toBe(100);
  expect(coarseScore(loop, keyed)).toBeLessThan(100);
});
