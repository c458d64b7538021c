import { beats, importAll, openLibrary, wav, type Library } from './services';

const load = () => import('~server/services/instruments.server');
let library: Library, instruments: Awaited<ReturnType<typeof load>>;
beforeAll(async () => {
  library = await openLibrary();
  instruments = await load();
  await instruments.learnInstruments();
});
afterAll(async () => {
  (await import('~core/theory/instruments')).setOwnInstruments([]);
  await library.close();
});

test('an instrument of the group’s own is told by the names of new files, in the threads too, and stays with its loops when it goes', async () => {
  const added = await instruments.addInstrument({ label: 'Hull plate', soundsAs: 'woodblock', words: 'rumpfblech' }, library.person);
  expect(added).toEqual({ id: 'own-hull-plate' });
  const { lines } = await importAll(library, 'Dry dock', [['Rumpfblech 96 bpm.wav', wav(beats(96, 8))]]),
    loopId = lines[0].loopId as number,
    instrument = async () => (await library.s.loops.findLoop(loopId, library.person))?.row.source;
  expect(await instrument()).toMatchObject({ instrument: 'own-hull-plate', family: 'percussion' });
  expect(await instruments.archiveInstrument('own-hull-plate')).toBe(true);
  expect(await instruments.archiveInstrument('own-keel')).toBe(false);
  expect(await instruments.listOwnInstruments()).toEqual([expect.objectContaining({ id: 'own-hull-plate', archived: true })]);
  expect(await instrument()).toMatchObject({ instrument: 'own-hull-plate' });
});
test('what is among the common ones, and what has no letters, is refused in words', async () => {
  expect(await instruments.addInstrument({ label: 'kick', soundsAs: 'kick', words: '' }, library.person)).toMatch(/among the common/);
  expect(await instruments.addInstrument({ label: '***', soundsAs: 'kick', words: '' }, library.person)).toMatch(/needs a letter/);
});
