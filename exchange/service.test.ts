import { mkdtempSync, rmSync } from 'node:fs';
import type { AddressInfo } from 'node:net';
import type { Server } from 'node:http';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { Readable } from 'node:stream';
import { sniffFormat } from '~core/formats/sniff';
import { pebblebank } from '../server/exchange/pebblebank';
import { OutsideError, type ExchangeSource } from '../server/exchange/source';
import { offeredLoops, offeredPacks } from './catalogue';
import { exchangeService, tokenOf, type Behaviour } from './service';
import { Sounds } from './sounds';

/*
 * What every source must do, tried on the one that ships: the adapter over HTTP against the simulated service. A second adapter is tried by
 * giving `source` another one.
 */
const folder = mkdtempSync(join(tmpdir(), 'exchange-')),
  usual: Behaviour = { dailyFiles: 200, slowMs: 0, failNext: 0 },
  behaviour: Behaviour = { ...usual },
  /** All are told, and of the first pack three are made. */
  packs = offeredPacks.map((pack, k) => (k === 0 ? { ...pack, loops: pack.loops.slice(0, 3) } : pack));
let server: Server, source: ExchangeSource, address: string;
beforeAll(async () => {
  server = exchangeService(new Sounds(folder), behaviour, packs).listen(0, '127.0.0.1');
  await new Promise((ready) => server.once('listening', ready));
  address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  source = pebblebank(address, { answerMs: 20_000, retries: 2, firstWaitMs: 5 });
});
beforeEach(() => Object.assign(behaviour, usual));
afterAll(() => {
  server.closeAllConnections();
  server.close();
  rmSync(folder, { recursive: true });
});

const bytesOf = async (stream: Readable): Promise<Buffer> => {
  const parts: Buffer[] = [];
  for await (const part of stream) parts.push(part as Buffer);
  return Buffer.concat(parts);
};
const kindOf = (promise: Promise<unknown>): Promise<string> =>
  promise.then(
    () => 'none',
    (error) => (error instanceof OutsideError ? error.kind : `other: ${error}`),
  );

test('there is enough on offer, and its own people are not always right', () => {
  expect(offeredLoops.length).toBeGreaterThanOrEqual(400);
  expect(new Set(offeredLoops.map(({ id }) => id)).size).toBe(offeredLoops.length);
  const pitched = offeredLoops.filter(({ spec }) => spec.truth.key !== null),
    silent = offeredLoops.filter(({ stated }) => stated.tempoBpm === null),
    wrong = offeredLoops.filter(({ stated, spec }) => stated.tempoBpm !== null && stated.tempoBpm !== spec.truth.tempoBpm);
  expect(silent.length).toBeGreaterThan(10);
  expect(wrong.length).toBeGreaterThan(5);
  expect(pitched.filter(({ stated }) => stated.key === null).length).toBeGreaterThan(10);
});
test('a search by words and category gives pages of loops, each with author, licence and page', async () => {
  const first = await source.search({ words: 'bass', category: 'bass', page: 0 }),
    second = await source.search({ words: 'bass', category: 'bass', page: 1 });
  expect(first.total).toBeGreaterThan(first.loops.length);
  expect(first.categories).toContain('drums');
  expect(second.loops.map(({ id }) => id)).not.toContain(first.loops[0].id);
  for (const loop of [...first.loops, ...second.loops]) {
    expect(loop).toMatchObject({ category: 'bass', author: expect.any(String), licence: expect.stringMatching(/\w/) });
    expect(loop.pageUrl.startsWith(address)).toBe(true);
  }
  expect(await source.search({ words: 'nothing of that kind', category: '', page: 0 })).toMatchObject({ total: 0, loops: [] });
});
test('one loop, its preview and its pack are told without a key', async () => {
  const {
      loops: [{ id, packId }],
    } = await source.search({ words: '', category: 'keys', page: 0 }),
    loop = await source.loop(id),
    pack = await source.pack(packId);
  expect(loop.id).toBe(id);
  expect(pack.loops.map((each) => each.id)).toContain(id);
  expect(sniffFormat(await bytesOf(await source.preview(id)))).toBe('ogg');
  expect((await fetch(loop.pageUrl)).status).toBe(200);
});
test('files and packs are for who has a key, and for so many a day', async () => {
  const { id, packId } = offeredLoops[0];
  expect(await kindOf(source.file(id, 'nothing'))).toBe('refused');
  const token = tokenOf('tester'),
    file = await bytesOf(await source.file(id, token));
  expect(['wav', 'flac', 'aiff']).toContain(sniffFormat(file));
  behaviour.dailyFiles = 1;
  expect(await kindOf(source.file(id, token))).toBe('limit');
  behaviour.dailyFiles = 100;
  const zip = await bytesOf(await source.packZip(packId, token));
  expect(zip.subarray(0, 2).toString()).toBe('PK');
  expect(zip.includes(packs[0].loops[2].fileName)).toBe(true);
});
test('what is not there is gone, at once', async () => {
  expect(await kindOf(source.loop('no-such-loop'))).toBe('gone');
  expect(await kindOf(source.pack('no-such-pack'))).toBe('gone');
});
test('failing answers are tried again, and given up in the end', async () => {
  const { id } = offeredLoops[0];
  behaviour.failNext = 2;
  expect((await source.loop(id)).id).toBe(id);
  behaviour.failNext = 3;
  expect(await kindOf(source.loop(id))).toBe('unreachable');
  expect(behaviour.failNext).toBe(0);
});
test('one that takes too long, or is not there at all, does not answer', async () => {
  behaviour.slowMs = 2000;
  expect(await kindOf(pebblebank(address, { answerMs: 100, retries: 1, firstWaitMs: 5 }).loop(offeredLoops[0].id))).toBe('unreachable');
  expect(
    await kindOf(
      pebblebank('http://127.0.0.1:1', { answerMs: 400, retries: 1, firstWaitMs: 5 }).search({ words: '', category: '', page: 0 }),
    ),
  ).toBe('unreachable');
});
