import { Readable } from 'node:stream';
import { beats, openLibrary, storeStaysWhole, until, wav, zipOf, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());
afterEach(() => jest.restoreAllMocks());

/** A sound by its name that is none, and unlike any other. */
const noSound = (k: number): Buffer => Buffer.from(`no sound at all, for the ${k}th time`);

/** Starts an import of one archive. */
async function start(packName: string, files: readonly (readonly [string, Buffer])[]): Promise<number> {
  const id = await s.imports.openBatch({ packName, vendor: '', licence: '', description: '' }, person);
  await s.imports.receiveFile(id, person, 'pack.zip', Readable.from([await zipOf(files)]));
  await s.imports.startBatch(id, person);
  return id;
}

/** Before the next file of a batch is put into the store, once so many have been unpacked, `first` is waited for. */
function holdUnpacking(unpacked: number, first: () => Promise<void>): void {
  const { storage } = s.storage,
    stage = storage.stage.bind(storage);
  let isHeld = false;
  jest.spyOn(storage, 'stage').mockImplementation(async (source) => {
    const [{ count }] = await s.db.selectRows<{ count: number }>(
      "select count(*)::int as count from import_files f join import_batches b on b.id = f.batch_id where b.state = 'unpacking'",
      [],
    );
    if (!isHeld && count > unpacked) {
      isHeld = true;
      await first();
    }
    return stage(source);
  });
}

const jobs = async () => (await s.db.selectRows('select 1 from graphile_worker.jobs', [])).length,
  stateOf = async (id: number) => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state,
  lineOf = async (id: number, path: string) => (await s.imports.listBatchFiles(id)).find((line) => line.path === path);

describe('what an archive holds', () => {
  storeStaysWhole(() => s);

  test('is heard while the rest is still being unpacked; equal sounds are known however late they come', async () => {
    const loop = wav(beats(88, 8)),
      seen: unknown[] = [];
    let id = 0;
    const isStarted = new Promise<void>((go) => {
      holdUnpacking(30, async () => {
        go();
        await until(async () => id > 0 && (await lineOf(id, 'first 88 bpm.wav'))?.state === 'done');
        await until(async () => (await lineOf(id, 'none 3.wav'))?.state === 'failed');
        seen.push(await stateOf(id), (await lineOf(id, 'first 88 bpm.wav'))?.state, (await lineOf(id, 'none 3.wav'))?.state);
      });
    });
    id = await start('Long to unpack', [
      ['first 88 bpm.wav', loop],
      ...Array.from({ length: 34 }, (_, k) => [`none ${k}.wav`, noSound(k)] as const),
      ['again 88 bpm.wav', loop],
      ['none 3 again.wav', noSound(3)],
      ['read me.txt', noSound(5)],
    ]);
    await isStarted;
    expect(await until(async () => (await stateOf(id)) === 'done')).toBe(true);
    expect(seen).toEqual(['unpacking', 'done', 'failed']);
    expect(await lineOf(id, 'again 88 bpm.wav')).toMatchObject({
      state: 'duplicate',
      message: expect.stringMatching(/first 88 bpm\.wav/),
    });
    // Nothing is the twin of what could not be read, nor of a text.
    expect((await lineOf(id, 'none 3 again.wav'))?.state).toBe('failed');
    expect([(await lineOf(id, 'none 5.wav'))?.state, (await lineOf(id, 'read me.txt'))?.state]).toEqual(['failed', 'kept']);
    expect(await s.db.selectRows("select 1 from loops where vendor_path like '% 88 bpm.wav'")).toHaveLength(1);
  });
  test('is left as a whole when somebody stops it in the middle, what was being unpacked just then too', async () => {
    let id = 0;
    holdUnpacking(30, async () => {
      await until(async () => id > 0);
      await s.imports.cancelBatch(id, person);
    });
    id = await start(
      'Stopped in the middle',
      Array.from({ length: 45 }, (_, k) => [`mid ${k}.wav`, noSound(100 + k)] as const),
    );
    expect(await until(async () => (await jobs()) === 0)).toBe(true);
    const lines = await s.imports.listBatchFiles(id);
    expect(lines.length).toBeGreaterThan(31);
    expect(lines.filter(({ state }) => !['left-aside', 'failed'].includes(state))).toEqual([]);
    expect(await stateOf(id)).toBe('cancelled');
  });
  test('waits when it is held in the middle, and all of it comes in when it goes on', async () => {
    let id = 0;
    holdUnpacking(30, async () => {
      await until(async () => id > 0);
      await s.imports.pauseBatch(id);
    });
    id = await start(
      'Held in the middle',
      Array.from({ length: 80 }, (_, k) => [`held ${k}.wav`, noSound(300 + k)] as const),
    );
    const batch = async () => (await s.imports.listBatches(50)).find((each) => each.id === id);
    expect(await until(async () => (await batch())?.state === 'paused' && (await jobs()) === 0)).toBe(true);
    expect(await batch()).toMatchObject({ state: 'paused', isPacked: true });
    expect((await s.imports.listBatchFiles(id)).length).toBeLessThan(60);
    await s.imports.resumeBatch(id);
    expect(await until(async () => (await stateOf(id)) === 'done')).toBe(true);
    expect((await s.imports.listBatchFiles(id)).filter(({ state }) => state === 'failed')).toHaveLength(80);
    expect(await batch()).toMatchObject({ isPacked: false, total: 80 });
  });
  test('goes on once, not twice beside itself, when it is held and gone on with at once', async () => {
    let id = 0,
      queues: (string | null)[] = [];
    holdUnpacking(30, async () => {
      await until(async () => id > 0);
      await s.imports.pauseBatch(id);
      await s.imports.resumeBatch(id);
      // The second job stands in line behind this one.
      queues = (
        await s.db.selectRows<{ name: string | null }>(
          "select queue_name as name from graphile_worker.jobs where task_identifier = 'unpack-import'",
          [],
        )
      ).map(({ name }) => name);
    });
    id = await start(
      'Held for a moment',
      Array.from({ length: 80 }, (_, k) => [`moment ${k}.wav`, noSound(400 + k)] as const),
    );
    expect(await until(async () => (await stateOf(id)) === 'done' && (await jobs()) === 0)).toBe(true);
    expect(queues).toEqual([`unpack-${id}`, `unpack-${id}`]);
    expect((await s.imports.listBatchFiles(id)).filter(({ state }) => state === 'failed')).toHaveLength(80);
  });
  test('waits where there is no room for the rest, and all of it comes in when there is', async () => {
    let id = 0;
    holdUnpacking(30, async () => {
      throw Object.assign(new Error('no space left on device'), { code: 'ENOSPC' });
    });
    id = await start('No room', [
      ...Array.from({ length: 40 }, (_, k) => [`room ${k}.wav`, noSound(200 + k)] as const),
      ['room 90 bpm.wav', wav(beats(90, 8))],
    ]);
    expect(await until(async () => (await stateOf(id)) === 'failed')).toBe(true);
    expect((await s.imports.listBatches(50)).find((batch) => batch.id === id)?.message).toMatch(/make room/);
    await s.imports.retryBatch(id);
    expect(await until(async () => (await stateOf(id)) === 'done')).toBe(true);
    expect((await lineOf(id, 'room 90 bpm.wav'))?.state).toBe('done');
    expect((await s.imports.listBatchFiles(id)).filter(({ state }) => state === 'failed')).toHaveLength(40);
  });
});
