import { beats, importAll, openLibrary, wav, type Library } from './services';

const load = () => import('~server/services/heard.server');
let library: Library, heard: Awaited<ReturnType<typeof load>>, ids: number[];
beforeAll(async () => {
  library = await openLibrary();
  heard = await load();
  const { lines } = await importAll(library, 'Ears', [
    ['one 90 bpm.wav', wav(beats(90, 8))],
    ['two 100 bpm.wav', wav(beats(100, 8))],
  ]);
  ids = [...lines].sort((a, b) => a.path.localeCompare(b.path)).map(({ loopId }) => loopId as number);
});
afterAll(() => library.close());

test('what was heard comes back in its order with what was done to it; the same right after is one hearing', async () => {
  const keep = (loopId: number, overrides = {}, offsetBeats = 0) =>
    heard.keepHearing(library.person, { loopId, projectId: null, overrides, offsetBeats });
  await keep(ids[0]);
  await keep(ids[1], { shiftSemitones: 2 });
  await keep(ids[1], { shiftSemitones: 3, reverse: true }, 1);
  await keep(ids[0]);
  const lines = await heard.listHeard(library.person);
  expect(lines.map(({ row }) => row.id)).toEqual([ids[0], ids[1], ids[0]]);
  expect(lines[1]).toMatchObject({ overrides: { shiftSemitones: 3, reverse: true }, offsetBeats: 1, projectName: null });
});
test('nobody else hears of it, what is not there is not kept, and of thousands the last are', async () => {
  const other = await library.s.people.addPerson('Bert Quill', 'a long password', null);
  expect(await heard.listHeard(other.ok ? other.id : 0)).toEqual([]);
  await heard.keepHearing(library.person, { loopId: 999_999, projectId: null, overrides: {}, offsetBeats: 0 });
  expect(await heard.listHeard(library.person)).toHaveLength(3);
  await library.s.db.sequelize.query(
    'insert into heard (person_id, loop_id, at) select $1, $2, now() - make_interval(mins => n) from generate_series(1, 1100) n',
    { bind: [library.person, ids[0]] },
  );
  await heard.keepHearing(library.person, { loopId: ids[1], projectId: null, overrides: {}, offsetBeats: 0 });
  expect(await heard.listHeard(library.person, 5000)).toHaveLength(1000);
});
