import { emptyQuery, parseLoopQuery, type LoopQuery } from '~core/search/query';
import { usualWeights } from '~core/search/fit/weights';
import { beats, importAll, openLibrary, wav, type Library, type Services } from './services';

/** Loaded after the database is made, whose address they read once. */
const load = async () => ({
  collections: await import('~server/services/collections.server'),
  searches: await import('~server/services/searches.server'),
  ratings: await import('~server/services/ratings.server'),
  lookUp: await import('~server/services/look-up.server'),
  marks: await import('~server/services/fit-marks.server'),
  asked: await import('~server/services/asked-sounds.server'),
});
let library: Library, s: Services, own: Awaited<ReturnType<typeof load>>, person: number, other: number, ids: number[];
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  own = await load();
  const { lines } = await importAll(library, 'Found things', [
    ['Knock 100 bpm.wav', wav(beats(100, 8))],
    ['Knock 110 bpm.wav', wav(beats(110, 8))],
    ['Knock 120 bpm.wav', wav(beats(120, 8))],
  ]);
  ids = lines.flatMap(({ loopId }) => loopId ?? []);
  const added = await s.people.addPerson('Bo Tarn', 'another password', person);
  if (!added.ok) throw new Error('not added');
  other = added.id;
});
afterAll(() => library.close());

const find = async (changes: Partial<LoopQuery>, who = person) =>
  (await s.search.findLoops(await s.search.searchFor({ ...emptyQuery, ...changes }, who, null), 0)).rows
    .map(({ id }) => id)
    .sort((a, b) => a - b);

test('collections lie in each other, are kept to oneself, and have an order of their own', async () => {
  const outer = await own.collections.makeCollection(person, 'Outer', {}),
    twice = await own.collections.makeCollection(person, 'outer', {});
  if (typeof outer === 'string') throw new Error(outer);
  expect(twice).toMatch(/already/);
  const inner = await own.collections.makeCollection(person, 'Inner', { parentId: outer.id });
  if (typeof inner === 'string') throw new Error(inner);
  await s.db.sequelize.transaction(async (transaction) => {
    for (const [k, name] of ['Inner', 'Inner', 'Outer'].entries())
      await own.collections.setCollected({ name, personId: person, loopId: ids[k], isWanted: true }, transaction);
  });
  expect(await find({ chosen: { collection: [String(outer.id)] } })).toEqual([...ids].sort((a, b) => a - b));
  expect(await find({ chosen: { collection: [String(inner.id)] } })).toHaveLength(2);
  expect(await own.collections.changeCollection(outer.id, person, { parentId: inner.id })).toMatch(/cannot lie in itself/);
  for (const parentId of [outer.id, 999_999])
    expect(await own.collections.makeCollection(other, 'Theirs', { parentId })).toMatch(/of one’s own/);
  expect(await own.collections.changeCollection(inner.id, person, { parentId: 999_999 })).toMatch(/of one’s own/);
  expect(await own.collections.collectedIds(inner.id)).toEqual([ids[0], ids[1]]);
  await own.collections.orderCollected(inner.id, [ids[1], ids[0]]);
  expect(await own.collections.collectedIds(inner.id)).toEqual([ids[1], ids[0]]);
  // What one keeps to oneself nobody else sees, by its number neither.
  expect(await own.collections.changeCollection(inner.id, person, { isPrivate: true })).toBeNull();
  expect((await own.collections.listCollections(other)).map(({ name }) => name)).toEqual(['Outer']);
  expect(await find({ chosen: { collection: [String(inner.id)] } }, other)).toEqual([]);
  expect(await find({ chosen: { collection: [String(outer.id)] } }, other)).toEqual([ids[2]]);
  expect(await find({ chosen: { collection: [String(inner.id)] } })).toHaveLength(2);
});

test('searches are kept under a name, shared, pinned and forgotten; what was looked for last comes first', async () => {
  const id = await own.searches.keepSearch(person, 'Knocks', 'q=knock&sort=tempo&dir=asc&nonsense=1');
  expect(await own.searches.keepSearch(person, 'KNOCKS', 'q=knock')).toBe(id);
  expect(await own.searches.listSearches(other)).toEqual([]);
  expect(await own.searches.changeSearch(id, other, { isShared: true })).toMatch(/own person/);
  expect(await own.searches.changeSearch(id, person, { isShared: true, isPinned: true })).toBeNull();
  expect(await own.searches.listSearches(other)).toMatchObject([{ name: 'KNOCKS', address: 'q=knock', isOwn: false }]);
  for (const address of ['q=one', 'q=two', '', 'q=one']) await own.searches.rememberSearch(person, address);
  expect(await own.searches.recentSearches(person)).toEqual(['q=one', 'q=two']);
  expect(await own.searches.forgetSearch(id, other)).toBeNull();
  expect(await own.searches.forgetSearch(id, person)).toEqual(expect.objectContaining({ name: 'KNOCKS', address: 'q=knock' }));
});

test('stars and notes are each person’s own, found by one’s own, and shown to all', async () => {
  // Each by itself: a note leaves the stars as they are, and stars a note.
  await own.ratings.rate(person, ids[0], { stars: 3 });
  await own.ratings.rate(person, ids[0], { note: 'for the ferry' });
  await own.ratings.rate(person, ids[0], { stars: 4 });
  await own.ratings.rate(other, ids[0], { stars: 2 });
  expect(await find({ words: 'rated:4' })).toEqual([ids[0]]);
  expect(await find({ words: 'rated:4' }, other)).toEqual([]);
  expect((await find({ words: 'rated:none' })).includes(ids[0])).toBe(false);
  expect((await s.loops.findLoop(ids[0], person))?.ratings).toEqual(
    expect.arrayContaining([
      expect.objectContaining({ stars: 4, note: 'for the ferry', isOwn: true }),
      expect.objectContaining({ stars: 2, isOwn: false }),
    ]),
  );
  await own.ratings.rate(person, ids[0], { stars: null });
  expect(await find({ words: 'rated:1' })).toEqual([]);
  expect((await own.ratings.ratingsOf(ids[0], person)).find(({ isOwn }) => isOwn)).toMatchObject({ stars: null, note: 'for the ferry' });
  await own.ratings.rate(person, ids[0], { note: '' });
  expect((await own.ratings.ratingsOf(ids[0], person)).some(({ isOwn }) => isOwn)).toBe(false);
});

test('rows say how well they belong to the project in the room, by one’s own weights', async () => {
  const made = await s.fromLoop.projectFromLoop(ids[1], person);
  if (!('id' in made)) throw new Error('no project');
  const open = await s.projects.openProject(made.id, person),
    project = { id: made.id, tempoBpm: open?.project.tempoBpm ?? 0, key: open?.project.key ?? null },
    look = async () => {
      const { rows, readingLoops } = await own.lookUp.lookUp(
        { query: parseLoopQuery(new URLSearchParams('sort=fit&dir=desc&q=knock')), personId: person, project, range: null },
        { offset: 0 },
      );
      expect(readingLoops).toBe(0);
      return new Map(rows.map(({ id, fit }) => [id, fit]));
    };
  const usual = await look();
  expect(usual.get(ids[1])?.words).toMatch(/^no stretch · .*sounds here already/);
  expect(usual.get(ids[0])?.words).toMatch(/\+10\.0 %|\+9\.\d %|\+10\.\d %/);
  expect(usual.get(ids[0])?.parts.map(({ part }) => part)).toEqual(Object.keys(usualWeights));
  await own.marks.keepFitWeights(person, { ...usualWeights, stretch: 0 });
  const turned = await look();
  expect(turned.get(ids[0])?.score).toBeGreaterThan(usual.get(ids[0])?.score ?? 100);
  expect(await own.marks.fitWeightsOf(other)).toEqual(usualWeights);
});

test('a sound of one’s own is heard, kept as what is known of it, and nothing of the file stays', async () => {
  const { Readable } = await import('node:stream'),
    heard = await own.asked.askWithSound(person, 'mine.wav', Readable.from([wav(beats(95, 8))]));
  if (typeof heard === 'string') throw new Error(heard);
  const known = await own.asked.askedSound(heard.id, person);
  expect(known?.likeness).toHaveLength(32);
  expect(known?.profile).not.toBeNull();
  expect(await own.asked.askedSound(heard.id, other)).toBeNull();
  const [{ left }] = await s.db.selectRows<{ left: number }>(
    'select count(*)::int as left from asked_sounds where file_sha256 is not null',
  );
  expect(left).toBe(0);
  expect(await own.asked.askWithSound(person, 'junk.wav', Readable.from([Buffer.from('no sound at all')]))).toMatch(/\w/);
});
