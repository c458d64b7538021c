import { mkdtempSync, rmSync } from 'node:fs';
import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { emptyProject } from '~core/arrangement/tree';
import { offeredPacks } from '../../exchange/catalogue';
import { exchangeService, tokenOf, type Behaviour } from '../../exchange/service';
import { Sounds } from '../../exchange/sounds';
import type { ExchangeSource } from '~server/exchange/source';
import { plainClip, plainTrack } from '../generators/track';
import { openLibrary, storeStaysWhole, until, type Library } from './services';

const folder = mkdtempSync(join(tmpdir(), 'exchange-')),
  behaviour: Behaviour = { dailyFiles: 200, slowMs: 0, failNext: 0 },
  /** Few of each, for every sound is made here. */
  packs = [
    ...offeredPacks.slice(0, 2).map((each) => ({ ...each, loops: each.loops.slice(5, 9) })),
    // People out there call their files as they like.
    { ...offeredPacks[2], loops: offeredPacks[2].loops.slice(5, 8).map((each) => ({ ...each, fileName: 'loop.wav' })) },
  ],
  [pack] = packs,
  loop = pack.loops[1];
const load = async () => ({
  hear: await import('~server/services/exchange/hear.server'),
  keys: await import('~server/services/exchange/keys.server'),
  search: await import('~server/services/exchange/search.server'),
  take: await import('~server/services/exchange/take.server'),
});
type Exchange = Awaited<ReturnType<typeof load>>;
let library: Library, server: Server, source: ExchangeSource, person: number;
let hear: Exchange['hear'], keys: Exchange['keys'], search: Exchange['search'], take: Exchange['take'];
beforeAll(async () => {
  server = exchangeService(new Sounds(folder), behaviour, packs).listen(0, '127.0.0.1');
  await new Promise((ready) => server.once('listening', ready));
  // Settings are read once, by the first of the server's modules.
  process.env.GARNETFINCH_EXCHANGE_URL = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  library = await openLibrary();
  ({ person } = library);
  ({ hear, keys, search, take } = await load());
  [source] = (await import('~server/exchange/sources.server')).exchangeSources;
});
afterAll(async () => {
  await library.close();
  server.closeAllConnections();
  server.close();
  rmSync(folder, { recursive: true });
});
beforeEach(() => Object.assign(behaviour, { dailyFiles: 200, slowMs: 0, failNext: 0 }));
storeStaysWhole(() => library.s);

const ended = (batchId: number) =>
  until(async () => (await library.s.db.selectRows("select 1 from import_batches where id = $1 and state = 'done'", [batchId])).length > 0);

test('a loop outside is heard as one of ours: decoded, listened to, with what its page states, once', async () => {
  const heard = await hear.hearOutside(source, loop.id);
  if (typeof heard === 'string') throw new Error(heard);
  expect(heard.id).toBeLessThan(0);
  expect(heard.source).toMatchObject({ kind: 'loop', tempoBpm: loop.spec.truth.tempoBpm, family: 'bass' });
  expect(heard.source.soundFrames).toBe(Math.round((60 / 84) * 16 * 44100));
  expect((await library.s.storage.storage.stat(heard.source.soundSha))?.bytes).toBeGreaterThan(100_000);
  expect(await hear.hearOutside(source, loop.id)).toEqual(heard);
});
test('a key is kept so that the database alone tells it to nobody', async () => {
  await keys.keepKey(person, source.id, 'pebble-secret');
  const [{ sealed }] = await library.s.db.selectRows<{ sealed: Buffer }>('select sealed from exchange_keys');
  expect(sealed.includes('pebble-secret')).toBe(false);
  expect(await keys.keyOf(person, source.id)).toBe('pebble-secret');
  await keys.keepKey(person, source.id, '');
  expect(await keys.keyOf(person, source.id)).toBeNull();
});
test('nothing is taken without a key', async () => {
  await expect(take.takeOutside(source, { packId: pack.id, loopIds: [loop.id] }, person)).rejects.toThrow(/needs your key/);
});
test('one is taken, is marked, and its author, licence and page stand in the credits; then its pack, which joins it', async () => {
  await keys.keepKey(person, source.id, tokenOf('db test'));
  const batchId = (await take.takeOutside(source, { packId: pack.id, loopIds: [loop.id] }, person)) as number;
  expect(await ended(batchId)).toBe(true);
  const found = await search.searchExchange(source, { words: 'tidewrack', category: 'bass', page: 0 }),
    taken = found.loops.find(({ id }) => id === loop.id);
  expect(taken?.loopId).toBeGreaterThan(0);
  expect(found.loops.filter(({ loopId }) => loopId !== null)).toHaveLength(1);
  const loopId = taken?.loopId as number,
    project = {
      ...emptyProject('Shore', 84, null),
      tracks: [plainTrack({ id: 't', name: 'Low end', clips: [plainClip({ id: 'c', loopId, startBeat: 0, lengthBeats: 16 })] })],
    },
    credits = library.s.used.creditsText(
      project,
      await library.s.used.usedLoops(project, await library.s.search.findRowsById([loopId], person)),
    );
  expect(credits).toContain(`author:  ${loop.author}`);
  expect(credits).toContain(`/loops/${loop.id}`);
  expect(credits).toContain(loop.licence);
  expect((await library.s.loops.findLoop(loopId, person))?.origin).toMatchObject({ author: loop.author, sourceName: 'Pebblebank' });
  const whole = (await take.takeOutside(source, { packId: pack.id, loopIds: null }, person)) as number;
  expect(await ended(whole)).toBe(true);
  const loops = await library.s.db.selectRows<{ pack: string }>(
    'select p.name as pack from loops l join packs p on p.id = l.pack_id where p.name = $1',
    [pack.title],
  );
  expect(loops).toHaveLength(pack.loops.length);
  expect(await library.s.db.selectRows('select 1 from packs where name = $1 and archived_at is null', [pack.title])).toHaveLength(1);
  expect((await search.listTakes(person)).find((line) => line.batchId === whole)).toMatchObject({
    state: 'done',
    wanted: pack.loops.length,
    duplicate: 1,
    failed: 0,
  });
}, 120_000);
test('files of one name are each a loop of their own, taken at once or one after the other', async () => {
  const pack = packs[2],
    [first, ...others] = pack.loops.map(({ id }) => id);
  await keys.keepKey(person, source.id, tokenOf('same names'));
  expect(await ended((await take.takeOutside(source, { packId: pack.id, loopIds: [first] }, person)) as number)).toBe(true);
  // Out there they stand in another order by now, so that another is the one that keeps its name.
  pack.loops.reverse();
  expect(await ended((await take.takeOutside(source, { packId: pack.id, loopIds: others }, person)) as number)).toBe(true);
  const lines = await search.markTaken(source.id, (await source.pack(pack.id)).loops);
  expect(new Set(lines.map(({ loopId }) => loopId)).size).toBe(3);
  const details = await Promise.all(lines.map(({ loopId }) => library.s.loops.findLoop(loopId ?? 0, person)));
  expect(details.map((detail) => detail?.origin?.pageUrl)).toEqual(lines.map(({ pageUrl }) => pageUrl));
  expect(details.map((detail) => detail?.vendorPath).sort()).toEqual(['loop (2).wav', 'loop (3).wav', 'loop.wav']);
}, 60_000);
test('what the exchange will not give is told file by file, and what it gave is in', async () => {
  const other = packs[1],
    ids = other.loops.slice(0, 3).map(({ id }) => id);
  await keys.keepKey(person, source.id, tokenOf('a day of two'));
  behaviour.dailyFiles = 2;
  const batchId = (await take.takeOutside(source, { packId: other.id, loopIds: ids }, person)) as number;
  expect(await ended(batchId)).toBe(true);
  const lines = await library.s.imports.listBatchFiles(batchId);
  expect(lines.map(({ state }) => state).sort()).toEqual(['done', 'done', 'failed']);
  expect(lines.find(({ state }) => state === 'failed')?.message).toMatch(/No more than 2 files a day/);
}, 60_000);
test('trouble outside is told and is none of ours', async () => {
  behaviour.failNext = 20;
  const found = await search.searchExchange(source, { words: '', category: '', page: 0 });
  expect(found).toMatchObject({ total: 0, loops: [], trouble: expect.stringMatching(/does not answer/) });
}, 30_000);
