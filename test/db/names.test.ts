import { writeSmf } from '~core/formats/smf/write';
import { beats, importAll, openLibrary, until, wav, type Library, type Services } from './services';

const load = async () => ({ ...(await import('~server/services/names.server')), ...(await import('~server/services/context.server')) });
let library: Library, s: Services, names: Awaited<ReturnType<typeof load>>;
beforeAll(async () => {
  library = await openLibrary();
  ({ s } = library);
  names = await load();
});
afterAll(() => library.close());

const namedTempos = (packId: number) =>
    s.db.selectRows<{ file: string; said: number | null }>(
      `select l.file_name as file, (select (f.value)::float8 from facts f where f.loop_id = l.id and f.attribute = 'tempo' and f.source = 'file-name' and f.superseded_at is null) as said
       from loops l where l.pack_id = $1 order by l.file_name`,
      [packId],
    ),
  /** They are read together when the last of them has been heard, which is a moment after the import has ended. */
  expectNamed = async (packId: number, wanted: readonly (number | null)[]) => {
    let read: unknown[] = [];
    await until(async () => JSON.stringify((read = (await namedTempos(packId)).map(({ said }) => said))) === JSON.stringify(wanted));
    expect(read).toEqual(wanted);
  },
  packOf = async (name: string) => (await s.packs.packNames()).find((pack) => pack.name === name)?.id as number,
  // Each of another length and tempo, so that no two are of the same bytes.
  files = (name: (k: number, tempo: number) => string, tempos: readonly number[]) =>
    tempos.map((tempo, k) => [name(k, tempo), wav(beats(tempo, 8 + 4 * (k % 2)))] as const);

test('numbers in the third place that agree with the sound are tempos, and the counting ones beside them are none', async () => {
  await importAll(
    library,
    'Third place',
    files((k, tempo) => `TP_${70 + k}_${tempo}_Kelp.wav`, [92, 98, 104, 110, 116, 122]),
  );
  const packId = await packOf('Third place');
  await expectNamed(packId, [92, 98, 104, 110, 116, 122]);
  const [group] = await names.findNameGroups(packId);
  expect(group).toMatchObject({ signature: '_4', roles: ['code', 'number', 'tempo', 'code'], isSaid: false, count: 6 });
});
test('numbers that only count are read as no tempo, though each by itself would be', async () => {
  await importAll(
    library,
    'Counted',
    files((k) => `Hits_${101 + k}.wav`, [78, 83, 88, 95, 125, 132]),
  );
  await expectNamed(await packOf('Counted'), [null, null, null, null, null, null]);
});
test('a person says it once for all names of a shape, it outlives another hearing, and is taken back', async () => {
  const packId = await packOf('Third place'),
    roles = ['code', 'tempo', 'number', 'words'];
  expect(await names.sayPattern(packId, '_4', roles, library.person)).toEqual({ before: null });
  await names.settleContext(packId);
  await expectNamed(packId, [70, 71, 72, 73, 74, 75]);
  const [{ id }] = await s.db.selectRows<{ id: number }>('select id from loops where pack_id = $1 limit 1', [packId]);
  await s.reanalysis.analyseAgain(id, true);
  await expectNamed(packId, [70, 71, 72, 73, 74, 75]);
  expect(await names.sayPattern(packId, '_4', ['tempo', 'tempo', 'key', 'words'], library.person)).toMatch(/Only one part/);
  expect(await names.sayPattern(packId, '_4', ['tempo'], library.person)).toMatch(/each part/);
  expect(await names.sayPattern(packId, `${'_'.repeat(30)}4`, roles, library.person)).toMatch(/each part/);
  expect(await names.sayPattern(999_999, '_4', roles, library.person)).toMatch(/no pack/);
  expect(await names.sayPattern(packId, '_4', null, library.person)).toEqual({ before: roles });
  await names.settleContext(packId);
  await expectNamed(packId, [92, 98, 104, 110, 116, 122]);
});
test('what was said of one pack of a vendor holds for the next of that vendor', async () => {
  await importAll(
    library,
    'First of theirs',
    files((k, tempo) => `x-${k} - ${tempo} - rope.wav`, [87, 93]),
  );
  const first = await packOf('First of theirs');
  await names.sayPattern(first, '-3', ['tempo', 'number', 'words'], library.person);
  await importAll(
    library,
    'Second of theirs',
    files((k, tempo) => `${tempo - 1} - ${120 + k} - mast.wav`, [101, 107]),
  );
  const second = await packOf('Second of theirs');
  await expectNamed(second, [100, 106]);
  expect((await names.findNameGroups(second)).length).toBe(0);
});
test('notes, whose tempo is written, are left as they are', async () => {
  const notes = [{ startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 90 }];
  await importAll(library, 'Written', [['Written 90 bpm.mid', Buffer.from(writeSmf({ notes, lengthBeats: 16, tempoBpm: 90 } as never))]]);
  expect((await namedTempos(await packOf('Written')))[0].said).toBe(90);
});
test('what is read no otherwise is left as it was heard, and read by itself again it is the same row as before', async () => {
  const rowsOf = (packId: number, onlyInForce: boolean) =>
    s.db.selectRows<{ id: string; value: unknown }>(
      `select f.id, f.value from facts f join loops l on l.id = f.loop_id where l.pack_id = $1 and f.source = 'file-name' and f.attribute in ('tempo', 'key')
         ${onlyInForce ? 'and f.superseded_at is null' : ''} order by f.id`,
      [packId],
    );
  // Enough of them to be learnt from: the pattern says what each says by itself.
  await importAll(
    library,
    'Left alone',
    files((k, tempo) => `Mast ${k} ${tempo} bpm Am.wav`, [86, 94, 106, 113, 118, 127]),
  );
  const many = await packOf('Left alone');
  expect((await names.findNameGroups(many))[0].roles).toContain('tempo');
  expect(await rowsOf(many, false)).toHaveLength(12);
  // Said to be no tempo, and taken back.
  await importAll(
    library,
    'Three',
    files((k, tempo) => `Keel ${k} ${tempo} bpm.wav`, [85, 97, 109]),
  );
  const three = await packOf('Three'),
    before = await rowsOf(three, true);
  expect(before).toHaveLength(3);
  const { signature } = (await names.findNameGroups(three))[0];
  await names.sayPattern(three, signature, ['words', 'number', 'number', 'words'], library.person);
  await names.settleContext(three);
  expect(await rowsOf(three, true)).toEqual([]);
  await names.sayPattern(three, signature, null, library.person);
  await names.settleContext(three);
  expect(await rowsOf(three, true)).toEqual(before);
  // Settled once more, nothing is written.
  const count = (await rowsOf(three, false)).length;
  await names.settleContext(three);
  expect(await rowsOf(three, false)).toHaveLength(count);
});
