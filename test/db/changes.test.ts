import { parseLoopQuery } from '~core/search/query';
import type { Change } from '~core/library/change';
import { barsAreTold, beats, importAll, openLibrary, until, wav, type Library } from './services';

const load = () => import('~server/services/changes/changes.server');
let library: Library, changes: Awaited<ReturnType<typeof load>>, ids: number[];
const keeper = () => ({ id: library.person, name: 'Keeper', role: 'keeper' as const, projectId: null });
beforeAll(async () => {
  library = await openLibrary();
  changes = await load();
  const { lines } = await importAll(library, 'Changeable', [
    ['Alpha 90 bpm.wav', wav(beats(90, 8))],
    ['Beta 100 bpm.wav', wav(beats(100, 8))],
    ['Gamma 110 bpm.wav', wav(beats(110, 8))],
  ]);
  ids = [...lines].sort((a, b) => a.path.localeCompare(b.path)).map(({ loopId }) => loopId as number);
});
afterAll(() => library.close());

const stateOf = (id: number) => library.s.db.selectRows<{ state: string }>('select state from loop_changes where id = $1', [id]);
async function change(asked: Change, which = ids): Promise<number> {
  const made = await changes.makeChange({ ids: which }, asked, keeper());
  if (typeof made === 'string') throw new Error(made);
  expect(await until(async () => (await stateOf(made.id))[0].state === 'done')).toBe(true);
  return made.id;
}
async function undo(id: number): Promise<void> {
  expect(await changes.undoChange(id, keeper())).toBeNull();
  expect(await until(async () => (await stateOf(id))[0].state === 'undone')).toBe(true);
}
const column = async (name: string): Promise<unknown[]> =>
  (
    await library.s.db.selectRows<{ value: unknown }>(`select ${name} as value from loops where id = any($1::int[]) order by file_name`, [
      ids,
    ])
  ).map(({ value }) => value);
const tempos = async () => (await column('tempo_bpm')).map((value) => Math.round(Number(value)));

test('a tempo is halved on all of them in one step, and comes back in one', async () => {
  expect(await tempos()).toEqual([90, 100, 110]);
  const preview = await changes.previewChange({ ids }, { kind: 'tempo-times', factor: 0.5 }, library.person);
  expect(preview).toMatchObject({ chosen: 3, changing: 3, lookedAt: 3 });
  expect(preview.lines[0]).toMatchObject({ before: '90', after: '45' });
  const id = await change({ kind: 'tempo-times', factor: 0.5 });
  expect(await tempos()).toEqual([45, 50, 55]);
  await undo(id);
  expect(await tempos()).toEqual([90, 100, 110]);
  expect(await changes.undoChange(id, keeper())).toMatch(/already/);
});
test('a pack tells what was changed of its loops, how many they were, and that it was taken back', async () => {
  const { findPackPage } = await import('~server/services/pack-page.server'),
    [packId] = (await column('pack_id')) as number[],
    last = async () => (await findPackPage(packId, library.person))?.history[0];
  const id = await change({ kind: 'tag', name: 'told', isWanted: true }, ids.slice(0, 2));
  expect(await last()).toMatchObject({ words: 'changed 2 loops, tagged “told”', person: 'Ada Quill' });
  await undo(id);
  expect(await last()).toMatchObject({ words: 'changed 2 loops, tagged “told”, taken back' });
});
test('what a person had said before comes back as their word, not as nothing', async () => {
  await library.s.words.correctFact(ids[1], { attribute: 'key', value: { tonic: 2, mode: 'minor' } }, library.person);
  const id = await change({ kind: 'fact', attribute: 'key', value: '5M' });
  expect(await column('key_tonic')).toEqual([5, 5, 5]);
  await undo(id);
  expect((await column('key_tonic'))[1]).toBe(2);
  expect(
    await library.s.db.selectRows(
      "select 1 from facts where attribute = 'key' and source = 'person' and superseded_at is null and loop_id = any($1::int[])",
      [ids],
    ),
  ).toHaveLength(1);
});
test('tags are found by the search at once, and titles are numbered in the order of the choice', async () => {
  const tagged = await change({ kind: 'tag', name: 'midwinter', isWanted: true });
  expect(await changes.idsOf('q=midwinter', library.person, 10)).toHaveLength(3);
  await undo(tagged);
  expect(await changes.idsOf('q=midwinter', library.person, 10)).toHaveLength(0);
  const titled = await change({ kind: 'title', pattern: 'Drum {tempo} {n2}' }, [ids[2], ids[0]]);
  expect(await column('title')).toEqual(['Drum 90 02', expect.stringMatching(/Beta/), 'Drum 110 01']);
  await undo(titled);
  expect((await column('title')).map((title) => String(title).split(' ')[0])).toEqual(['Alpha', 'Beta', 'Gamma']);
});
test('moved to another pack and into a set, archived: each comes back', async () => {
  const before = await column('pack_id'),
    moved = await change({ kind: 'pack', name: 'Elsewhere' });
  expect(new Set(await column('pack_id')).size).toBe(1);
  expect(await column('pack_id')).not.toEqual(before);
  await undo(moved);
  expect(await column('pack_id')).toEqual(before);
  const set = await change({ kind: 'set', stem: 'Trio' });
  expect(new Set(await column('set_id')).size).toBe(1);
  await undo(set);
  const archived = await change({ kind: 'archive' });
  expect((await column('archived_at')).every((value) => value !== null)).toBe(true);
  await undo(archived);
  expect(await column('archived_at')).toEqual([null, null, null]);
});
test('two files of one place, moved into one pack, lie beside each other; taken back, each lies where it lay', async () => {
  const both = await Promise.all(
      ['North', 'South'].map(
        async (pack, k) => (await importAll(library, pack, [['Drums/Take.wav', wav(beats(90 + k, 4))]])).lines[0].loopId,
      ),
    ),
    places = async () =>
      (
        await library.s.db.selectRows<{ place: string }>(
          "select p.name || ': ' || l.vendor_path as place from loops l join packs p on p.id = l.pack_id where l.id = any($1::int[]) order by 1",
          [both],
        )
      ).map(({ place }) => place);
  const moved = await change({ kind: 'pack', name: 'Middle' }, both as number[]);
  expect(await places()).toEqual(['Middle: Drums/Take (2).wav', 'Middle: Drums/Take.wav']);
  await undo(moved);
  expect(await places()).toEqual(['North: Drums/Take.wav', 'South: Drums/Take.wav']);
});
test('all that a search finds can be chosen, and what others brought in only a keeper archives', async () => {
  const made = await changes.makeChange({ address: 'q=alpha' }, { kind: 'tag', name: 'first', isWanted: true }, keeper());
  expect(made).toMatchObject({ loops: 1 });
  const stranger = { ...keeper(), id: library.person + 1000, role: 'member' as const };
  expect(await changes.makeChange({ ids }, { kind: 'archive' }, stranger)).toMatch(/only a keeper/);
  expect(await changes.makeChange({ address: 'q=nothingofthat' }, { kind: 'archive' }, keeper())).toMatch(/Choose loops first/);
});
test('a job that is done again changes nothing more, and one whose loop has gone comes to its end', async () => {
  const id = await change({ kind: 'tempo-times', factor: 2 });
  expect(await tempos()).toEqual([180, 200, 220]);
  await library.s.db.sequelize.query("update loop_changes set state = 'queued' where id = $1", { bind: [id] });
  await changes.runChange(id);
  expect(await tempos()).toEqual([180, 200, 220]);
  await undo(id);
  const [{ id: gone }] = await library.s.db.selectRows<{ id: number }>(
    'insert into loop_changes (person_id, change, loop_ids) values ($1, $2, array[2000000]) returning id',
    [library.person, JSON.stringify({ kind: 'archive' })],
  );
  await changes.runChange(gone);
  expect((await stateOf(gone))[0].state).toBe('done');
});

test('listened to again, what is heard is said anew and what people said stays', async () => {
  const { analyseAgain } = await import('~server/services/reanalysis.server'),
    [id] = ids,
    heard = () =>
      library.s.db.selectRows<{ id: string; live: boolean }>(
        "select id::text, superseded_at is null as live from facts where loop_id = $1 and source = 'sound' order by facts.id",
        [id],
      ),
    // What changes before this one asked for is told by now.
    quiet = await barsAreTold(library.s),
    before = await heard();
  expect(quiet).toBe(true);
  await library.s.words.correctFact(id, { attribute: 'key', value: { tonic: 7, mode: 'major' } }, library.person);
  await analyseAgain(id, true);
  const after = await heard();
  expect(after.length).toBeGreaterThan(before.length);
  expect(after.filter(({ live }) => live).every((fact) => !before.some((old) => old.id === fact.id))).toBe(true);
  expect((await column('key_tonic'))[0]).toBe(7);
  // Without being asked for, nothing is heard that has not changed.
  await analyseAgain(id);
  expect((await heard()).length).toBe(after.length);
});

test.each(['fit', 'title', 'tempo'])('ids come in the order in which the list shows its rows: by %s', async (sort) => {
  const project = { id: 1, tempoBpm: 104, key: null },
    address = `sort=${sort}&dir=desc`,
    { rows } = await library.s.search.findLoops(
      await library.s.search.searchFor(parseLoopQuery(new URLSearchParams(address)), library.person, project),
      0,
    );
  expect(rows.length).toBeGreaterThan(2);
  expect(await changes.idsOf(address, library.person, 10, 0, project)).toEqual(rows.slice(0, 10).map(({ id }) => id));
  expect(await changes.idsOf(address, library.person, 2, 1, project)).toEqual(rows.slice(1, 3).map(({ id }) => id));
});
test('loops are put into a collection of one’s own, found in it, and taken out of it by going back', async () => {
  const collections = await import('~server/services/collections.server'),
    inIt = async () => {
      const [line] = (await collections.listCollections(library.person)).filter(({ name }) => name === 'Night picks');
      return line
        ? library.s.search.countLoops(
            await library.s.search.searchFor(parseLoopQuery(new URLSearchParams(`collection=${line.id}`)), library.person),
          )
        : 0;
    };
  await change({ kind: 'collection', name: 'Night picks', isWanted: true }, ids.slice(0, 1));
  // One that lies in it already is not touched, whatever letters its name is written in, and so does not go with this step.
  const id = await change({ kind: 'collection', name: 'night PICKS', isWanted: true });
  expect(await inIt()).toBe(3);
  await undo(id);
  expect(await inIt()).toBe(1);
  const [line] = (await collections.listCollections(library.person)).filter(({ name }) => name === 'Night picks'),
    other = await library.s.people.addPerson('Bert Quill', 'a long password', null);
  expect(await collections.changeCollection(line.id, other.ok ? other.id : 0, { name: 'Mine' })).toMatch(/own person/);
  expect(await collections.changeCollection(line.id, library.person, { isArchived: true })).toBeNull();
  expect(await inIt()).toBe(0);
});
