import { pageRows } from '~contracts/page-rows';
import fc from 'fast-check';
import { Client } from 'pg';
import { Finder, type FindContext } from '~core/search/index/finder';
import { usualWeights } from '~core/search/fit/weights';
import { outsideName, outsideOf } from '~core/search/outside';
import { emptyQuery, type LoopQuery } from '~core/search/query';
import { keyCode, type Key } from '~core/theory/key';
import { insertLibrary } from '../generators/insert-library';
import { openLibrary, type Library, type Services } from './services';

const load = async () => ({ ...(await import('~server/search/library-feed')), ...(await import('~server/db/queries/outside')) });
let library: Library, s: Services, person: number, client: Client, feedOf: Awaited<ReturnType<typeof load>>;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  client = new Client({ connectionString: process.env.DATABASE_URL });
  await client.connect();
  await insertLibrary(client, 400, person, { withDetail: true });
  feedOf = await load();
});
afterAll(async () => {
  await client.end();
  await library.close();
});

const project = { id: 1, tempoBpm: 118, key: { tonic: 5, mode: 'minor' } as Key };

async function bothFind(finder: Finder, query: LoopQuery) {
  const search = await s.search.searchFor(query, person, project),
    outside: Record<string, number[]> = {};
  for (const each of outsideOf(query)) {
    const { sql, bind } = feedOf.outsideIdsSql(each, { personId: person, projectId: project.id });
    outside[outsideName(each)] = (await s.db.selectRows<{ id: number }>(sql, [...bind])).map(({ id }) => id);
  }
  const context: FindContext = {
      project,
      outside,
      nowMs: Date.now(),
      scene: null,
      sceneKey: '',
      asked: null,
      weights: usualWeights,
      heard: { ids: [], atMs: [] },
    },
    { ids, total, facets } = finder.ask({ query, context, offset: 0, limit: pageRows, wants: { facets: true } }),
    counted = await s.search.countFacets(search);
  const named = (counts: readonly { value: string; count: number }[]) =>
    new Map(counts.filter(({ count }) => count > 0).map(({ value, count }) => [value, count]));
  return {
    index: { total, ids: [...ids], facets: Object.fromEntries(Object.keys(counted).map((name) => [name, named(facets?.[name] ?? [])])) },
    database: {
      total: await s.search.countLoops(search),
      ids: (await s.search.findLoops(search, 0)).rows.map(({ id }) => id),
      facets: Object.fromEntries(Object.entries(counted).map(([name, counts]) => [name, named(counts)])),
    },
  };
}

test('the index finds what the database finds, counts what it counts, in its order', async () => {
  await s.loops.setFavourite(person, 7, true);
  await s.loops.setTag(9, 'rainy', true, person);
  const feed = new feedOf.LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) });
  await feed.load();
  const finder = new Finder(feed.index);
  expect(feed.index.count).toBe(400);
  await fc.assert(
    fc.asyncProperty(
      fc.record({
        words: fc.constantFrom(
          '',
          'warm',
          'quiet 1',
          'дождь',
          'cafe',
          'shkaer',
          '-rain',
          '90-120',
          '±8%',
          '±2st',
          'key:fifth',
          'key:parallel',
          'Fm',
          '2-4 bars',
          'is:notes',
          'is:doubtful',
          'is:favourite',
          'is:unused',
          'by:Ada',
          'added:9m',
          'genre:house',
          'character:dry',
          'instrument:hats',
          'bass drum',
          'instrument:hihat',
          'family:bass',
          'pack:harbour',
          'vendor:ember',
          'meter:3/4',
          'tag:rainy',
          'rated:none',
          'licence:commercial',
          '-licence:changed',
        ),
        chosen: fc.constantFrom<Record<string, string[]>>(
          {},
          { family: ['bass', 'keys'] },
          { kind: ['loop'], bars: ['4'] },
          { key: ['un', keyCode({ tonic: 5, mode: 'minor' })] },
          { genre: ['house', 'jazz'] },
          { pack: ['1'] },
        ),
        tempo: fc.option(fc.constant({ fromBpm: 80, toBpm: 126 }), { freq: 3 }),
        ranges: fc.constantFrom<LoopQuery['ranges']>({}, { shift: { from: -2, to: 2 } }, { stretch: { from: -0.1, to: 0.1 } }),
        sort: fc.constantFrom<LoopQuery['sort']>('added', 'tempo', 'key', 'bars', 'length', 'pack', 'kind', 'instrument'),
        descending: fc.boolean(),
      }),
      async (drawn) => {
        const { index, database } = await bothFind(finder, { ...emptyQuery, ...drawn });
        expect(index).toEqual(database);
      },
    ),
    { numRuns: 80 },
  );
}, 120_000);

test('the feed tells of what is added, changed, archived, renamed and brought back, and of nothing twice', async () => {
  const feed = new feedOf.LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) });
  await feed.load();
  const found = async (words: string, chosen: LoopQuery['chosen'] = {}) => {
    await feed.catchUp();
    return (await bothFind(new Finder(feed.index), { ...emptyQuery, words, chosen })).index.ids;
  };
  await s.words.correctFact(11, { attribute: 'instrument', value: 'shaker' }, person);
  expect(await found('', { instrument: ['shaker'] })).toContain(11);
  await s.loops.archiveLoops([11], true, person);
  expect(await found('', { instrument: ['shaker'] })).not.toContain(11);
  await s.loops.archiveLoops([11], false, person);
  expect(await found('', { instrument: ['shaker'] })).toContain(11);
  const [{ id: packId }] = await s.db.selectRows<{ id: number }>('select pack_id as id from loops where id = $1', [11]);
  await s.db.selectRows('update packs set name = $2 where id = $1 returning id', [packId, 'Zebra Crossing']);
  expect(await found('pack:zebra', { instrument: ['shaker'] })).toContain(11);
  const { version } = feed.index;
  await feed.catchUp();
  expect(feed.index.version).toBe(version);
});

test('what is committed late, behind what came after it, is not missed', async () => {
  const feed = new feedOf.LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) }),
    slow = new Client({ connectionString: process.env.DATABASE_URL });
  await feed.load();
  await slow.connect();
  await slow.query('begin');
  await slow.query(`update loops set tempo_bpm = 61.5 where id = 21`);
  await s.loops.archiveLoops([22], true, person);
  await feed.catchUp();
  const tempo = () => feed.index.tempoBpm.data[feed.index.slotOfId(21) ?? -1];
  expect(feed.index.slotOfId(22)).toBeUndefined();
  expect(tempo()).not.toBe(61.5);
  await slow.query('commit');
  await slow.end();
  await feed.catchUp();
  expect(tempo()).toBe(61.5);
});

test('what is under way as the library is read, and committed behind it, is not missed either', async () => {
  const feed = new feedOf.LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) }),
    slow = new Client({ connectionString: process.env.DATABASE_URL });
  await slow.connect();
  await slow.query('begin');
  await slow.query(`update loops set tempo_bpm = 62.5 where id = 23`);
  // A later number that can be seen: the reading stands behind both.
  await s.loops.archiveLoops([24], true, person);
  await feed.load();
  await slow.query('commit');
  await slow.end();
  await feed.catchUp();
  expect(feed.index.slotOfId(24)).toBeUndefined();
  expect(feed.index.tempoBpm.data[feed.index.slotOfId(23) ?? -1]).toBe(62.5);
});

test('a profile that is missing is made from the analysis and kept', async () => {
  await s.db.selectRows('update loops set profile = null where id in (31, 32) returning id');
  const feed = new feedOf.LibraryFeed({ query: (sql, bind) => client.query(sql, [...bind]) });
  await feed.load();
  const [{ kept }] = await s.db.selectRows<{ kept: number }>(
    'select count(*)::int as kept from loops where id in (31, 32) and profile is not null',
  );
  expect(kept).toBe(2);
});
