import fc from 'fast-check';
import { asIndexed } from '../../../test/generators/indexed';
import { generateLoops } from '../../../test/generators/library-rows';
import { families } from '../../theory/instruments';
import { shiftToKey, type Key } from '../../theory/key';
import { stretchOctaves } from '../fit/coarse';
import { ProfileReader } from '../fit/profile';
import { usualWeights } from '../fit/weights';
import { emptyQuery, sortColumns, type LoopQuery } from '../query';
import { Finder, type FindContext } from './finder';
import type { IndexedLoop } from './indexed-loop';
import { LibraryIndex, titleKey } from './library-index';

const rows = [...generateLoops(600, 5)].map(asIndexed),
  project = { tempoBpm: 118, key: { tonic: 5, mode: 'minor' } as Key },
  outside = {
    favourites: [3, 9, 77, 140, 4711],
    used: [9, 10],
    'collection:4': [1, 2, 3, 5, 8, 13],
    'linked:2': [30, 31],
    'people:teo': [2],
    'rated:3': [40, 41, 42],
  },
  context: FindContext = {
    project,
    outside,
    nowMs: Date.UTC(2026, 6, 1),
    scene: null,
    sceneKey: '',
    asked: null,
    weights: usualWeights,
    heard: { ids: [7, 5], atMs: [100, 200] },
  };

/** What every question is about, said by hand: each loop is looked at. */
function finds(loop: IndexedLoop, query: LoopQuery): boolean {
  const told = (name: keyof typeof outside) => outside[name].includes(loop.id),
    words = loop.searchText.split(/[^\p{L}\p{N}]+/u),
    unpitched = loop.pitched === false || loop.family === 'drums',
    key: Key | null = loop.keyTonic === null || loop.keyMode === null ? null : { tonic: loop.keyTonic, mode: loop.keyMode };
  const tests: Readonly<Record<string, () => boolean>> = {
    '': () => true,
    warm: () => words.some((word) => word.startsWith('warm')),
    '-rain': () => !words.some((word) => word.startsWith('rain')),
    '90-120': () => loop.tempoBpm !== null && loop.tempoBpm >= 90 && loop.tempoBpm <= 120,
    '±8%': () => loop.tempoBpm !== null && stretchOctaves(loop.tempoBpm, 118) <= Math.log2(1.08) + 1e-9,
    '-±8%': () => !(loop.tempoBpm !== null && stretchOctaves(loop.tempoBpm, 118) <= Math.log2(1.08) + 1e-9),
    '±2st': () => unpitched || (key !== null && Math.abs(shiftToKey(key, project.key)) <= 2),
    '2-4 bars': () => loop.bars !== null && loop.bars >= 2 && loop.bars <= 4,
    'is:notes': () => loop.media === 'midi',
    'is:favourite': () => told('favourites'),
    'is:unused': () => !told('used'),
    'is:doubtful': () => loop.isDoubtful,
    'by:teo': () => loop.addedBy === 2,
    'rated:3': () => told('rated:3'),
    'added:9m': () => loop.addedAtMs > context.nowMs - 279 * 86_400_000,
    'genre:house': () => (loop.facets.genre as string[]).includes('house'),
    'meter:3/4': () => loop.meter === '3/4',
    'licence:commercial': () => /royalty-free/i.test(loop.licence),
  };
  const list = (name: string) => query.chosen[name];
  return (
    tests[query.words]() &&
    (!list('family') || list('family').includes(loop.family ?? '')) &&
    (!list('key') || list('key').includes(loop.facets.key as string)) &&
    (!list('genre') || list('genre').some((genre) => (loop.facets.genre as string[]).includes(genre))) &&
    (!list('pack') || list('pack').includes(String(loop.packId)) || (list('pack').includes('2') && told('linked:2'))) &&
    (!list('collection') || told('collection:4')) &&
    (!list('folder') || list('folder').some((folder) => loop.folder.startsWith(folder))) &&
    (!query.tempo || (loop.tempoBpm !== null && loop.tempoBpm >= query.tempo.fromBpm && loop.tempoBpm < query.tempo.toBpm)) &&
    (!query.favourites || told('favourites'))
  );
}

const valueOf: Readonly<Partial<Record<LoopQuery['sort'], (loop: IndexedLoop) => string | number | null>>> = {
  added: (loop) => loop.addedAtMs,
  title: (loop) => titleKey(loop.title),
  tempo: (loop) => loop.tempoBpm,
  key: (loop) => (loop.keyTonic === null ? null : loop.keyTonic * 2 + (loop.keyMode === 'minor' ? 1 : 0)),
  bars: (loop) => loop.bars,
  length: (loop) => loop.lengthSeconds,
  pack: (loop) => loop.packName,
  kind: (loop) => loop.kind,
  heard: (loop) => ({ 7: 100, 5: 200 })[loop.id] ?? null,
};

function ordered(found: readonly IndexedLoop[], { sort, descending }: LoopQuery): number[] {
  const value = valueOf[sort] ?? valueOf.added!,
    way = descending ? -1 : 1;
  return [...found]
    .sort((a, b) => {
      const [x, y] = [value(a), value(b)];
      if ((x === null) !== (y === null)) return x === null ? 1 : -1;
      return (x === null || y === null || x === y ? a.id - b.id : x < y ? -1 : 1) * way;
    })
    .map(({ id }) => id);
}

const lines = [
    '',
    'warm',
    '-rain',
    '90-120',
    '±8%',
    '-±8%',
    '±2st',
    '2-4 bars',
    'is:notes',
    'is:favourite',
    'is:unused',
    'is:doubtful',
    'by:teo',
    'rated:3',
    'added:9m',
    'genre:house',
    'meter:3/4',
    'licence:commercial',
  ],
  maybe = <T>(values: readonly T[]) =>
    fc.option(fc.subarray([...values], { minLength: 1, maxLength: Math.min(3, values.length) }), { freq: 3, nil: undefined }),
  query: fc.Arbitrary<LoopQuery> = fc
    .record({
      words: fc.constantFrom(...lines),
      family: maybe(Object.keys(families)),
      key: maybe(['un', 'no', '5m', '0M', '7m']),
      genre: maybe(['house', 'jazz', 'dub']),
      pack: maybe(['1', '2', '3']),
      collection: maybe(['4']),
      folder: maybe(rows.slice(0, 3).map(({ folder }) => folder)),
      tempo: fc.option(fc.record({ fromBpm: fc.integer({ min: 60, max: 120 }), toBpm: fc.integer({ min: 121, max: 200 }) }), { freq: 3 }),
      favourites: fc.boolean(),
      sort: fc.constantFrom(...(Object.keys(valueOf) as LoopQuery['sort'][])),
      descending: fc.boolean(),
    })
    .map(({ words, tempo, favourites, sort, descending, ...chosen }) => ({
      ...emptyQuery,
      words,
      tempo,
      favourites,
      sort,
      descending,
      chosen: Object.fromEntries(Object.entries(chosen).filter(([, values]) => values !== undefined)) as Record<string, string[]>,
    }));

/** An index that has seen changes: some loops come, change and go before it stands as the rows say. */
function livedIndex(): LibraryIndex {
  const index = new LibraryIndex();
  for (const row of rows.slice(0, 300))
    index.put({ ...row, title: 'other', searchText: 'other words', tempoBpm: 99, facets: { ...row.facets, family: 'fx' } });
  index.put({ ...rows[0], id: 99_999 });
  index.drop(99_999);
  for (const row of rows) index.put(row);
  return index;
}

describe('what is found', () => {
  const finder = new Finder(livedIndex());
  const ask = (asked: LoopQuery, offset = 0, limit = 60, of = finder) =>
    of.ask({ query: asked, context, offset, limit, wants: { facets: true } });
  test('is what looking at each loop finds, in the same order, page by page', () => {
    fc.assert(
      fc.property(query, fc.nat(100), (asked, offset) => {
        const wanted = ordered(
            rows.filter((row) => finds(row, asked)),
            asked,
          ),
          { ids, total } = ask(asked, offset, 40);
        expect([total, [...ids]]).toEqual([wanted.length, wanted.slice(offset, offset + 40)]);
      }),
      { numRuns: 300 },
    );
  });
  test('counts of each facet are those of a look at each loop, its own choice left out', () => {
    fc.assert(
      fc.property(query, (asked) => {
        const { facets, colour } = ask(asked, 0, 0),
          found = rows.filter((each) => finds(each, asked));
        for (const name of ['family', 'key', 'genre', 'kind', 'bars', 'pack'] as const) {
          const { [name]: _, ...chosen } = asked.chosen,
            counts = new Map<string, number>();
          for (const row of name in asked.chosen ? rows.filter((each) => finds(each, { ...asked, chosen })) : found) {
            const value = name === 'pack' ? String(row.packId) : row.facets[name];
            for (const each of value === null ? [] : [value].flat()) counts.set(each, (counts.get(each) ?? 0) + 1);
          }
          expect(new Map((facets?.[name] ?? []).filter(({ count }) => count > 0).map((each) => [each.value, each.count]))).toEqual(counts);
        }
        const cells = new Map<string, number>();
        for (const row of found) {
          const profile = row.profile && new ProfileReader(row.profile);
          if (!profile?.isKnown || profile.brightnessOctaves === null || profile.density === null) continue;
          const { density, brightnessOctaves } = profile,
            cell = `${Math.floor(brightnessOctaves * 2) / 2} ${[11, 6, 4, 3, 2, 1.5, 1, 0.5, 0.25, 0].find((step) => step <= density)}`;
          cells.set(cell, (cells.get(cell) ?? 0) + 1);
        }
        expect(new Map((colour ?? []).map((each) => [`${each.brightness} ${each.density}`, each.count]))).toEqual(cells);
        const tempos = (asked.tempo ? rows.filter((each) => finds(each, { ...asked, tempo: null })) : found).filter(
          ({ tempoBpm }) => tempoBpm !== null,
        ).length;
        expect((facets?.tempo ?? []).reduce((sum, { count }) => sum + count, 0)).toBe(tempos);
      }),
      { numRuns: 120 },
    );
  });
  test('stays the same through inserts, changes and drops: orders that were kept are kept up', () => {
    const index = new LibraryIndex(),
      own = new Finder(index),
      there = new Map<number, IndexedLoop>();
    fc.assert(
      fc.property(
        query,
        fc.array(fc.record({ row: fc.constantFrom(...rows), gone: fc.boolean() }), { maxLength: 30 }),
        (asked, changes) => {
          for (const { row, gone } of changes) {
            if (gone) {
              index.drop(row.id);
              there.delete(row.id);
            } else {
              index.put(row);
              there.set(row.id, row);
            }
          }
          const wanted = ordered(
            [...there.values()].filter((row) => finds(row, asked)),
            asked,
          );
          expect([...ask(asked, 0, 100, own).ids]).toEqual(wanted.slice(0, 100));
        },
      ),
      { numRuns: 200 },
    );
  });
  test('what is called so stands before what only begins so, and both before what goes by another name', () => {
    const own = new LibraryIndex(),
      row = (id: number, searchText: string, instrument: string) =>
        own.put({ ...rows[0], id, searchText, instrument, addedAtMs: 1000 - id });
    row(1, 'late kicker', 'texture');
    row(2, 'old rim shot rimshot', 'rimshot');
    row(3, 'slow snare', 'snare');
    row(4, 'late snares', 'snare');
    row(5, 'tight kick', 'kick');
    const found = (words: string) => [...ask({ ...emptyQuery, words }, 0, 10, new Finder(own)).ids];
    expect(found('kick')).toEqual([5, 1]);
    expect(found('snare')).toEqual([3, 4, 2]);
    expect(found('snare').slice(1)).toEqual([...ask({ ...emptyQuery, words: 'snare' }, 1, 10, new Finder(own)).ids]);
  });
  test('the last of all rows is reached, and rows do not repeat from page to page', () => {
    for (const sort of sortColumns) {
      const seen = new Set<number>();
      for (let offset = 0; offset < rows.length; offset += 77) for (const id of ask({ ...emptyQuery, sort }, offset, 77).ids) seen.add(id);
      expect([sort, seen.size]).toEqual([sort, rows.length]);
    }
  });
  test('a letter or a tempo is jumped to', () => {
    const byTitle = { ...emptyQuery, sort: 'title' as const, descending: false },
      jumped = finder.ask({ query: byTitle, context, offset: 0, limit: 1, wants: {}, jumpTo: 'q' }).jumpedTo ?? 0,
      titles = ordered(rows, byTitle).map((id) => titleKey(rows.find((row) => row.id === id)?.title ?? ''));
    expect(titles[jumped] >= 'q').toBe(true);
    expect(titles[jumped - 1] < 'q').toBe(true);
    const byTempo = { ...emptyQuery, words: 'warm', sort: 'tempo' as const, descending: true },
      at = finder.ask({ query: byTempo, context, offset: 0, limit: 1, wants: {}, jumpTo: '120' }).jumpedTo ?? 0,
      [first] = ask(byTempo, at, 1).ids;
    expect(rows.find(({ id }) => id === first)?.tempoBpm).toBeLessThanOrEqual(120);
    const [before] = ask(byTempo, at - 1, 1).ids;
    expect(rows.find(({ id }) => id === before)?.tempoBpm).toBeGreaterThan(120);
  });
  test('the nearest by a count of heights are those of the whole order, page by page', () => {
    const near = { kind: 'like' as const, ids: [5], sound: 1, rhythm: 0.5, harmony: 0 },
      query = { ...emptyQuery, near, sort: 'likeness' as const },
      all = [...ask(query, 0, 600).ids],
      turned = [...ask({ ...query, descending: false }, 0, 600).ids];
    expect(all).toHaveLength(rows.length - 1);
    expect(all).not.toContain(5);
    expect([...turned].reverse()).toEqual(all);
    expect([...ask(query, 37, 20).ids]).toEqual(all.slice(37, 57));
    const narrowed = { ...query, chosen: { family: ['bass', 'keys'] } };
    expect([...ask(narrowed, 0, 20).ids]).toEqual(
      all.filter((id) => ['bass', 'keys'].includes(rows.find((row) => row.id === id)?.family ?? '')).slice(0, 20),
    );
  });
  test('groups count what is found, the best first', () => {
    const { groups, total } = finder.ask({
      query: { ...emptyQuery, sort: 'title', descending: false },
      context,
      offset: 0,
      limit: 0,
      wants: { groups: 'pack' },
    });
    expect(groups?.reduce((sum, { count }) => sum + count, 0)).toBe(total);
    const [first] = ordered(rows, { ...emptyQuery, sort: 'title', descending: false });
    expect(groups?.[0].name).toBe(rows.find(({ id }) => id === first)?.packName);
  });
  test('the map holds every loop with a tempo once, at its shift and its stretch', () => {
    const { map } = finder.ask({ query: emptyQuery, context, offset: 0, limit: 0, wants: { map: true } });
    expect(map?.cells.reduce((sum, { count }) => sum + count, 0)).toBe(rows.filter(({ tempoBpm }) => tempoBpm !== null).length);
    const few = finder.ask({ query: { ...emptyQuery, words: 'warm' }, context, offset: 0, limit: 0, wants: { map: true } });
    expect(few.map?.marks.length).toBeGreaterThan(0);
    expect(few.map?.marks.every(({ stretch }) => Math.abs(stretch) <= 1)).toBe(true);
  });
});

test('titles are ordered by the size of their numbers, without accents and capitals', () => {
  expect(['Take 10', 'take 9', 'Éclair', 'echo'].sort((a, b) => (titleKey(a) < titleKey(b) ? -1 : 1))).toEqual([
    'echo',
    'Éclair',
    'take 9',
    'Take 10',
  ]);
});
