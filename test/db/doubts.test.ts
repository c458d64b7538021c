import { beats, importAll, openLibrary, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number, quiet: number[], used: number[];
const asked = (packId: number | null = null, from = 0) => ({ only: 'tempo' as const, packId, from });
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
  const files = (from: number) => [0, 1, 2].map((k) => [`Beat A${k + 1}.wav`, wav(beats(from + 7 * k, 8))] as const),
    ids = async (name: string, from: number) =>
      (await importAll(library, name, files(from))).lines.map(({ loopId }) => loopId as number).sort((a, b) => a - b);
  quiet = await ids('Quiet shelf', 80);
  used = await ids('Used shelf', 120);
  // What counts here is the order, not what was heard; nobody has just brought anything in.
  await s.db.sequelize.query(
    'update loops set tempo_confidence = case when pack_id = (select pack_id from loops where id = $1) then 0.6 else 0.5 end',
    {
      bind: [used[0]],
    },
  );
  await s.db.sequelize.query("update packs set added_at = now() - interval '60 days'");
});
afterAll(() => library.close());
const order = async (packId: number | null = null, from = 0) =>
  (await s.doubts.findDoubts(person, asked(packId, from))).doubts.map(({ row }) => row.id);

test('the most doubtful come first while nothing is used; a pack that is used comes before one that is not', async () => {
  expect(await order()).toEqual([...quiet, ...used]);
  for (const id of used) await s.loops.setFavourite(person, id, true);
  // 0.4 × (1 + ln 2.5) against 0.5.
  expect(await order()).toEqual([...used, ...quiet]);
});
test('what one has just brought in comes before what others did', async () => {
  await s.db.sequelize.query('update packs set added_at = now() where id = (select pack_id from loops where id = $1)', {
    bind: [quiet[0]],
  });
  // 0.5 × 1.5 against 0.4 × 1.92.
  expect((await order())[0]).toBe(used[0]);
  await s.db.sequelize.query('update loops set tempo_confidence = 0.4 where id = $1', { bind: [quiet[2]] });
  expect((await order())[0]).toBe(quiet[2]);
});
test('whatever weighs what, the pages are those of all doubts ordered by worth', async () => {
  for (const seed of [1, 2, 3]) {
    await s.db.sequelize.query('update loops set tempo_confidence = 0.3 + 0.5 * ((id * 7919 * $1) % 97) / 97.0', { bind: [seed] });
    const all = await order(),
      worths = new Map(
        (
          await s.db.selectRows<{ id: number; worth: number }>(
            `select l.id, (1 - l.tempo_confidence) * (1 + ln(1 + 0.5 * (select count(*) from favourites f join loops o on o.id = f.loop_id where o.pack_id = l.pack_id)))
               * case when p.added_at > now() - interval '14 days' then 1.5 else 1 end as worth from loops l join packs p on p.id = l.pack_id`,
          )
        ).map(({ id, worth }) => [id, Number(worth)]),
      );
    const plain = [...all].sort((a, b) => (worths.get(b) ?? 0) - (worths.get(a) ?? 0) || a - b);
    expect(all).toHaveLength(6);
    expect(all).toEqual(plain);
    expect([...(await order(null, 2))]).toEqual(plain.slice(2));
  }
  await s.db.sequelize.query('update loops set tempo_confidence = 0.5');
});
test('one pack is looked at by itself, all of it is reached page by page, and its progress is told', async () => {
  const [{ packId }] = await s.db.selectRows<{ packId: number }>('select pack_id as "packId" from loops where id = $1', [used[0]]);
  expect(await order(packId)).toEqual(used);
  expect((await s.doubts.countDoubts(packId)).tempo).toBe(3);
  const all = await order();
  expect([...(await order(null, 0)).slice(0, 4), ...(await order(null, 4))]).toEqual(all);
  const progress = (await s.doubts.packsInDoubt()).find(({ id }) => id === packId);
  expect(progress?.name).toBe('Used shelf');
  expect(progress?.doubts).toBeGreaterThanOrEqual(3);
  expect(progress?.facts).toBeGreaterThan(progress?.doubts ?? 0);
});
test('what the same could be said of: others of the pack in doubt on that fact, with their guesses, and which are of the set', async () => {
  const alike = await s.doubts.findAlike(used[0], 'tempo');
  expect(alike.map(({ loopId }) => loopId)).toEqual(used.slice(1));
  expect(alike.every(({ isOfSet }) => isOfSet)).toBe(true);
  expect(alike.every(({ guess }) => guess === null)).toBe(true);
  expect((await s.doubts.findAlike(used[0], 'tempo', true)).every(({ guess }) => Number(guess) > 0)).toBe(true);
  await s.words.correctFact(used[1], { attribute: 'tempo', value: 60 }, person);
  expect((await s.doubts.findAlike(used[0], 'tempo')).map(({ loopId }) => loopId)).toEqual([used[2]]);
});
