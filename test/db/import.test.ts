import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { writeSmf } from '~core/formats/smf/write';
import { rateHz, sine } from '../generators/signals';
import { beats, importAll, openLibrary, until, wav, zipOf, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());

/** Rewrites every place of a name in a zip; both names must be as long. */
function renamed(zip: Buffer, from: string, to: string): Buffer {
  const out = Buffer.from(zip);
  for (let at = out.indexOf(from); at >= 0; at = out.indexOf(from, at + to.length)) out.write(to, at, 'latin1');
  return out;
}

/** A zip whose entries' packed bytes are spoilt: what is inside cannot be unpacked, or not to what was said. */
async function damaged(names: readonly string[]): Promise<Buffer> {
  const zip = await zipOf(names.map((name, k) => [name, wav(beats(80 + k, 4))]));
  for (const name of names) {
    const at = zip.indexOf(name) + name.length;
    for (let i = 8; i < 60; i++) zip[at + i] ^= 0x5a;
  }
  return zip;
}

describe('import', () => {
  afterEach(async () => {
    // Whatever a test did: every file that is referred to is there, and nothing else is.
    let found = await s.keeping.checkStore({ readContents: true });
    await until(async () => (found = await s.keeping.checkStore({ readContents: true })).unreferred.length === 0);
    expect({ missing: found.missing, unreferred: found.unreferred, damaged: found.damaged }).toEqual({
      missing: [],
      unreferred: [],
      damaged: [],
    });
  });

  test('bytes that the library has, under a name with an unusable ending, cost the library nothing', async () => {
    const bytes = wav(beats(101, 8)),
      { lines } = await importAll(library, 'Kept', [['Kept 101 bpm.wav', bytes]]),
      [{ sha }] = await s.db.selectRows<{ sha: string }>('select file_sha256 as sha from loops where id = $1', [lines[0].loopId]);
    const { lines: later } = await importAll(library, 'Backup', [['loop.bak', bytes]]);
    expect(later).toMatchObject([{ state: 'left-aside', bytes: bytes.length }]);
    expect((await s.storage.storage.stat(sha))?.bytes).toBe(bytes.length);
  });
  test('twenty damaged sounds in one archive are twenty rows, and the good one is in', async () => {
    const names = Array.from({ length: 20 }, (_, k) => `damaged ${k}.wav`),
      zip = await damaged(names),
      good = await zipOf([['good 99 bpm.wav', wav(beats(99, 8))]]),
      { lines } = await importAll(library, 'Storm damage', [
        ['damaged.zip', zip],
        ['good.zip', good],
      ]);
    expect(lines.filter((line) => /damaged \d/.test(line.path)).map((line) => line.state)).toEqual(names.map(() => 'failed'));
    expect(lines.find((line) => line.path.endsWith('damaged 3.wav'))?.message).toMatch(/damaged inside the archive/);
    expect(lines.find((line) => line.path.includes('good 99'))).toMatchObject({ state: 'done' });
  });
  test('a sound whose checksum is wrong is refused, whatever it unpacks to', async () => {
    const zip = await zipOf([['sum 103.wav', wav(beats(103, 4))]]);
    for (const [signature, place] of [
      [0x04034b50, 14],
      [0x02014b50, 16],
      [0x08074b50, 4],
    ] as const) {
      const at = zip.indexOf(Buffer.from(new Uint32Array([signature]).buffer));
      if (at >= 0) zip.writeUInt32LE(1, at + place);
    }
    const { lines } = await importAll(library, 'Bad sum', [['sum.zip', zip]]);
    expect(lines.find((line) => line.path === 'sum 103.wav')).toMatchObject({
      state: 'failed',
      message: expect.stringMatching(/checksum/),
    });
  });
  test('two files of one name in an archive are two loops', async () => {
    const zip = renamed(
      await zipOf([
        ['Same.wav', wav(beats(105, 8))],
        ['Sam2.wav', wav(beats(106, 8))],
        ['x/../Same.wav'.slice(5), wav(beats(107, 8))],
      ]),
      'Sam2.wav',
      'Same.wav',
    );
    const { lines } = await importAll(library, 'Namesakes', [['names.zip', zip]]);
    expect(
      lines
        .filter((line) => line.path !== 'names.zip')
        .map((line) => [line.path, line.state])
        .sort(),
    ).toEqual([
      ['Same (2).wav', 'done'],
      ['Same (3).wav', 'done'],
      ['Same.wav', 'done'],
    ]);
  });
  test('what is valid but odd comes in: a meter of thirteen sixteenths, 720 quarters a minute, a name of separators', async () => {
    const midi = (meter: string, tempoBpm: number) =>
        Buffer.from(
          writeSmf({
            notes: Array.from({ length: 13 }, (_, k) => ({ startBeat: k / 4, lengthBeats: 0.2, pitch: 60 + k, velocity: 90, channel: 0 })),
            lengthBeats: 3.25,
            tempoBpm,
            meter,
          }),
        ),
      { lines } = await importAll(library, 'Odd', [
        ['thirteen.mid', midi('13/16', 120)],
        ['fast.mid', midi('4/4', 720)],
        ['___.wav', wav(beats(117, 4))],
        [`${'long '.repeat(70)}.wav`, wav(beats(119, 4))],
      ]);
    expect(lines.map((line) => [line.state, line.message])).toEqual(lines.map(() => ['done', null]));
  });
  test('twins of a file that cannot be read are told the same, and not that they are in the library', async () => {
    const page = Buffer.from('<html>no sound</html>'),
      { lines } = await importAll(library, 'Bad twins', [
        ['one.wav', page],
        ['two.wav', page],
      ]);
    expect(lines.map((line) => line.state)).toEqual(['failed', 'failed']);
    expect(lines[1].message).toBe(lines[0].message);
  });
  test('a licence in UTF-16 is read, and a text that cannot be read fails nothing', async () => {
    const utf16 = Buffer.concat([Buffer.from([0xff, 0xfe]), Buffer.from('Free for the crew', 'utf16le')]),
      zip = await zipOf([
        ['License.txt', utf16],
        ['readme.txt', Buffer.from('hello '.repeat(40))],
        ['heard 108.wav', wav(beats(108, 8))],
      ]);
    // The readme's packed bytes are spoilt.
    const at = zip.indexOf('readme.txt') + 'readme.txt'.length;
    for (let i = 0; i < 6; i++) zip[at + i] ^= 0xff;
    const { lines } = await importAll(library, 'Texts', [['texts.zip', zip]]);
    expect(lines.find((line) => line.path === 'heard 108.wav')).toMatchObject({ state: 'done' });
    expect(lines.find((line) => line.path === 'readme.txt')).toMatchObject({ state: 'left-aside' });
    const [pack] = await s.db.selectRows<{ licence: string }>("select licence from packs where name = 'Texts'");
    expect(pack.licence).toBe('Free for the crew');
  });
  test('a file that ends only after the import was started is refused and leaves nothing', async () => {
    const id = await s.imports.openBatch({ packName: 'Too late', vendor: '', licence: '', description: '' }, person),
      slow = new Readable({ read() {} }),
      bytes = wav(beats(109, 4)),
      receiving = s.imports.receiveFile(id, person, 'late.wav', slow);
    slow.push(bytes.subarray(0, 1000));
    await until(async () => (await s.db.selectRows('select 1 from import_batches where id = $1', [id])).length === 1);
    await s.imports.startBatch(id, person);
    slow.push(bytes.subarray(1000));
    slow.push(null);
    expect(await receiving).toEqual({ ok: false, message: expect.stringMatching(/no more files/) });
    expect(await s.imports.listBatchFiles(id)).toEqual([]);
  });
  test('stopped while files are being heard, nothing more comes in and nothing stays', async () => {
    const id = await s.imports.openBatch({ packName: 'Stopped', vendor: '', licence: '', description: '' }, person);
    for (let k = 0; k < 12; k++) await s.imports.receiveFile(id, person, `stop ${k}.wav`, Readable.from([wav(beats(60.5 + k, 24))]));
    await s.imports.startBatch(id, person);
    const working = await until(async () => (await s.imports.listBatchFiles(id)).some((line) => line.state === 'working'));
    expect(working).toBe(true);
    await s.imports.cancelBatch(id, person);
    const loops = () => s.db.selectRows("select 1 from loops where vendor_path like 'stop %'"),
      before = (await loops()).length;
    // Jobs that were under way or waited come to their end.
    expect(
      await until(
        async () =>
          (await s.db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'analyse-import-file'")).length === 0,
      ),
    ).toBe(true);
    expect((await loops()).length).toBe(before);
    expect((await s.imports.listBatchFiles(id)).every((line) => ['left-aside', 'done', 'duplicate'].includes(line.state))).toBe(true);
  });
  test('a file whose job ended its process at the last attempt is told to have failed, and the import ends', async () => {
    const id = await s.imports.openBatch({ packName: 'Killer', vendor: '', licence: '', description: '' }, person);
    await s.imports.receiveFile(id, person, 'killer 77.wav', Readable.from([wav(beats(77, 4))]));
    // As it would lie there after the fourth kill.
    await s.db.sequelize.query("update import_files set state = 'working' where batch_id = $1", { bind: [id] });
    await s.db.sequelize.query("update import_batches set state = 'analysing' where id = $1", { bind: [id] });
    const [{ id: fileId }] = await s.imports.listBatchFiles(id);
    await s.db.sequelize.query(
      "select graphile_worker.add_job('analyse-import-file', json_build_object('fileId', $1::text), run_at := now() + interval '1 hour', max_attempts := 4)",
      { bind: [fileId] },
    );
    await s.db.sequelize.query(
      "update graphile_worker._private_jobs set attempts = 4, locked_by = 'killed-pool', locked_at = now() - interval '2 minutes' where payload->>'fileId' = $1",
      { bind: [fileId] },
    );
    expect(await s.runner.reap(30)).toContain('killed-pool');
    expect(await s.imports.listBatchFiles(id)).toMatchObject([{ state: 'failed', message: expect.stringMatching(/could not be read/) }]);
    expect((await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state).toBe('done');
    expect(await s.db.selectRows("select 1 from graphile_worker._private_jobs where payload->>'fileId' = $1", [fileId])).toEqual([]);
  });
  test('a job that lasts longer than a worker may be silent is not taken from it', async () => {
    const held = await s.db.selectRows<{ id: string }>('select worker_id as id from worker_heartbeats', []);
    // Who locks jobs is who sends signs of life.
    const id = await s.imports.openBatch({ packName: 'Long', vendor: '', licence: '', description: '' }, person);
    await s.imports.receiveFile(id, person, 'long 61.wav', Readable.from([wav(beats(61, 64))]));
    await s.imports.startBatch(id, person);
    let lockedBy: string | undefined;
    await until(async () => {
      lockedBy = (
        await s.db.selectRows<{ by: string }>('select locked_by as by from graphile_worker._private_jobs where locked_by is not null', [])
      )[0]?.by;
      return lockedBy !== undefined || (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done';
    });
    expect(lockedBy).toBeDefined();
    expect(held.map((each) => each.id)).toContain(lockedBy);
    await until(async () => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done');
  });
  test('a pack with good, broken, foreign and encrypted files: each has a row that says how it went', async () => {
    const good = wav(beats(100, 8)),
      plain = await zipOf([
        ['Loops/Kit 100 bpm.wav', good],
        ['Loops/Cut.wav', good.subarray(0, 9000)],
        ['Loops/Empty.wav', Buffer.alloc(0)],
        ['Loops/Page.wav', Buffer.from('<html>')],
        ['Licence.txt', Buffer.from('Free to use.')],
        ['cover.jpg', Buffer.from([255, 216])],
      ]);
    const { lines } = await importAll(library, 'Mixed bag', [['bag.zip', plain]]);
    const state = (end: string) => lines.find((line) => line.path.endsWith(end));
    expect(state('Kit 100 bpm.wav')).toMatchObject({ state: 'done' });
    expect(state('Cut.wav')).toMatchObject({ state: 'failed', message: expect.stringContaining('cut off') });
    expect(state('Empty.wav')).toMatchObject({ state: 'failed', message: expect.stringContaining('empty') });
    expect(state('Page.wav')).toMatchObject({ state: 'failed', message: expect.stringContaining('not a sound file') });
    expect(state('cover.jpg')).toMatchObject({ state: 'left-aside' });
    const [pack] = await s.db.selectRows<{ licence: string }>("select licence from packs where name = 'Mixed bag'");
    expect(pack.licence).toBe('Free to use.');
  });
  test('a long file is read piece by piece: all of its sound is stored, and nothing is left lying about', async () => {
    const beat = beats(120, 8),
      long = new Float32Array(beat.length * 40);
    for (let at = 0; at < long.length; at += beat.length) long.set(beat, at);
    const { lines } = await importAll(library, 'Long player', [['rehearsal.wav', wav(long)]]);
    expect(lines).toEqual([expect.objectContaining({ state: 'done' })]);
    const [loop] = await s.db.selectRows<{ sha: string; frames: number; seconds: number; fingerprint: Buffer; likeness: Buffer }>(
      "select sound_sha256 as sha, sound_frames as frames, length_seconds as seconds, fingerprint, likeness from loops where title ilike 'rehearsal'",
    );
    expect(loop.frames).toBe(long.length);
    expect(loop.seconds).toBeCloseTo(160, 3);
    expect(loop.likeness).toHaveLength(32);
    expect(loop.fingerprint.length).toBeGreaterThan(4 * 1000);
    expect((await s.storage.storage.stat(loop.sha))?.bytes).toBe(44 + long.length * 4);
    const scratchDir = join(process.env.GARNETFINCH_DATA as string, 'scratch');
    // The row is told a moment before the last of the mess is gone.
    expect(await until(async () => !existsSync(scratchDir) || readdirSync(scratchDir).length === 0)).toBe(true);
  });
  test('paths that lead out of the archive are not followed', async () => {
    const evil = renamed(
      await zipOf([
        ['aa/aa/aa/evil.wav', wav(beats(90, 4))],
        ['fine 90.wav', wav(beats(90, 8))],
      ]),
      'aa/aa/aa/evil.wav',
      '../../../evil.wav',
    );
    const { lines } = await importAll(library, 'Climber', [['climb.zip', evil]]);
    expect(lines.find((line) => line.path.includes('evil'))).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('out of the archive'),
    });
    expect(lines.find((line) => line.path === 'fine 90.wav')).toMatchObject({ state: 'done' });
  });
  test('an archive that grows out of almost nothing is refused (CWE-409), and so is one that is none', async () => {
    const { lines } = await importAll(library, 'Bomb', [
      ['bomb.zip', await zipOf([['silence.wav', wav(new Float32Array(rateHz * 200))]])],
      ['torn.zip', Buffer.from('PK\u0003\u0004 and then nothing')],
      ['single 120 bpm.wav', wav(beats(120, 8))],
    ]);
    expect(lines.find((line) => line.path === 'bomb.zip')).toMatchObject({ state: 'failed', message: expect.stringContaining('refused') });
    expect(lines.find((line) => line.path === 'torn.zip')).toMatchObject({ state: 'failed', message: expect.stringContaining('damaged') });
    expect(lines.find((line) => line.path === 'single 120 bpm.wav')).toMatchObject({ state: 'done' });
  });
  test('an encrypted entry says so', async () => {
    const zip = await zipOf([['locked.wav', wav(beats(91, 4))]]);
    // Bit 0 of the general purpose flags, in the local and the central header (APPNOTE 6.3, 4.4.4).
    for (const [signature, flags] of [
      [0x04034b50, 6],
      [0x02014b50, 8],
    ] as const) {
      const at = zip.indexOf(Buffer.from(new Uint32Array([signature]).buffer));
      zip.writeUInt16LE(zip.readUInt16LE(at + flags) | 1, at + flags);
    }
    const { lines } = await importAll(library, 'Locked', [['locked.zip', zip]]);
    expect(lines.find((line) => line.path === 'locked.wav')).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('encrypted'),
    });
  });
  test('the same file twice is one loop', async () => {
    const same = wav(beats(97, 8));
    const { lines } = await importAll(library, 'Twins', [
      ['one.wav', same],
      ['two.wav', same],
    ]);
    expect(lines.map((line) => [line.path, line.state]).sort()).toEqual([
      ['one.wav', 'done'],
      ['two.wav', 'duplicate'],
    ]);
    const { lines: later } = await importAll(library, 'Twins again', [['three.wav', same]]);
    expect(later).toMatchObject([{ state: 'duplicate', message: expect.stringContaining('One') }]);
  });
  test('an upload that breaks off leaves neither row nor file', async () => {
    const id = await s.imports.openBatch({ packName: 'Broken off', vendor: '', licence: '', description: '' }, person);
    const torn = new Readable({
      read() {
        this.push(Buffer.alloc(1000));
        this.destroy(new Error('gone'));
      },
    });
    await expect(s.imports.receiveFile(id, person, 'x.wav', torn)).rejects.toThrow();
    expect(await s.imports.listBatchFiles(id)).toEqual([]);
    await s.imports.dropBatch(id);
    expect(await s.db.selectRows('select 1 from import_batches where id = $1', [id])).toEqual([]);
  });
  test('a job that runs a second time adds nothing', async () => {
    const { id, lines } = await importAll(library, 'Again', [['again 111 bpm.wav', wav(beats(111, 8))]]);
    await s.db.sequelize.query("update import_files set state = 'working' where batch_id = $1", { bind: [id] });
    await s.imports.analyseImportFile(lines[0].id);
    expect(await s.db.selectRows('select 1 from loops where vendor_path = $1', ['again 111 bpm.wav'])).toHaveLength(1);
  });
  test('a job of a killed process is taken up again', async () => {
    await s.db.sequelize.query("select graphile_worker.add_job('never-run', '{}')");
    await s.db.sequelize.query(
      "update graphile_worker._private_jobs set locked_by = 'dead-worker', locked_at = now() - interval '2 minutes' where task_id = (select id from graphile_worker._private_tasks where identifier = 'never-run')",
    );
    expect(await s.runner.reap(30)).toEqual(['dead-worker']);
    expect(await s.db.selectRows("select 1 from graphile_worker._private_jobs where locked_by = 'dead-worker'")).toEqual([]);
  });
  test('stopped before it was started it leaves no trace; nobody adds to another person’s import', async () => {
    const id = await s.imports.openBatch({ packName: 'Changed my mind', vendor: '', licence: '', description: '' }, person),
      bytes = wav(beats(133, 4));
    await s.imports.receiveFile(id, person, 'mind 133.wav', Readable.from([bytes]));
    const [{ sha }] = await s.db.selectRows<{ sha: string }>('select file_sha256 as sha from import_files where batch_id = $1', [id]);
    expect(await s.storage.storage.stat(sha)).not.toBeNull();
    const other = await s.people.addPerson('Bo Tarn', 'another password', person);
    expect(other.ok && (await s.imports.receiveFile(id, other.id, 'theirs.wav', Readable.from([bytes])))).toMatchObject({ ok: false });
    expect(await s.imports.receiveFile(id, person, '../..', Readable.from([bytes]))).toMatchObject({ ok: false });
    await s.imports.cancelBatch(id, person);
    expect(await s.db.selectRows('select 1 from import_batches where id = $1', [id])).toEqual([]);
    expect(await s.storage.storage.stat(sha)).toBeNull();
  });
  test('an import whose page was closed is dropped an hour after it last received something, a fresh one is not', async () => {
    const open = () => s.imports.openBatch({ packName: 'Forgotten', vendor: '', licence: '', description: '' }, person),
      [old, fresh] = [await open(), await open()];
    await s.db.sequelize.query("update import_batches set touched_at = now() - interval '61 minutes' where id = $1", { bind: [old] });
    await s.imports.dropForgottenBatches();
    expect(await s.db.selectRows<{ id: number }>('select id from import_batches where id in ($1, $2)', [old, fresh])).toEqual([
      { id: fresh },
    ]);
    await s.imports.dropBatch(fresh);
  });
  test('a whole import is taken back and brought back, its pack with it', async () => {
    const { id, lines } = await importAll(library, 'There and back', [
      ['There 93 bpm.wav', wav(beats(93, 8))],
      ['Back 95 bpm.wav', wav(beats(95, 8))],
    ]);
    const ids = lines.map(({ loopId }) => loopId as number),
      state = async () =>
        (
          await s.db.selectRows<{ loops: number; packs: number }>(
            "select (select count(*)::int from loops where id = any($1::int[]) and archived_at is null) as loops, (select count(*)::int from packs where name = 'There and back' and archived_at is null) as packs",
            [ids],
          )
        )[0];
    expect(await s.imports.takeBackBatch(id, true, person)).toBe(2);
    expect(await state()).toEqual({ loops: 0, packs: 0 });
    expect(await s.imports.takeBackBatch(id, false, person)).toBe(2);
    expect(await state()).toEqual({ loops: 2, packs: 1 });
  });
  test('an archived pack is deleted for good with its files; what a project uses stays, and nothing goes that was not archived', async () => {
    const { lines } = await importAll(library, 'To be gone', [
        ['Gone 113 bpm.wav', wav(beats(113, 8))],
        ['Used 114 bpm.wav', wav(beats(114, 8))],
      ]),
      used = lines.find((line) => line.path.startsWith('Used'))?.loopId as number,
      [{ pack }] = await s.db.selectRows<{ pack: number }>('select pack_id as pack from loops where id = $1', [used]);
    await s.fromLoop.projectFromLoop(used, person);
    expect(await s.deletePack.deletePackForGood(pack, person)).toMatchObject({
      ok: false,
      message: expect.stringMatching(/archived first/),
    });
    await s.packs.archivePack(pack, true, person);
    // The file and its sound.
    expect(await s.deletePack.deletePackForGood(pack, person)).toEqual({ ok: true, loops: 1, files: 2, kept: 1 });
    expect(await s.db.selectRows('select id from loops where pack_id = $1', [pack])).toEqual([{ id: used }]);
    expect(await s.deletePack.deletePackForGood(999_999, person)).toMatchObject({ ok: false });
  });
  test('what its pack and set say of a loop is taken into account when all of it has been heard', async () => {
    const { lines } = await importAll(library, 'Suite', [
      ['Alley Groove 104 bpm A.wav', wav(beats(104, 16))],
      ['Alley Groove 104 bpm B.wav', wav(beats(104, 16).map((value) => value * 0.5))],
      ['Alley Groove Fill.wav', wav(beats(104, 8))],
    ]);
    const fill = lines.find(({ path }) => path.includes('Fill'))?.loopId as number;
    expect(
      await until(async () => (await s.db.selectRows("select 1 from facts where loop_id = $1 and source = 'set'", [fill])).length > 0),
    ).toBe(true);
    expect((await s.loops.findLoop(fill, person))?.row.source.tempoBpm).toBeCloseTo(104, 0);
  });
});

test('storage: contents name the file, ranges are exact, the same contents are kept once', async () => {
  const bytes = Buffer.from(sine(100, 0.1).buffer),
    first = await s.storage.storage.put(Readable.from([bytes])),
    second = await s.storage.storage.put(Readable.from([bytes.subarray(0, 10), bytes.subarray(10)]));
  expect(second).toEqual(first);
  const part: Buffer[] = [];
  for await (const chunk of s.storage.storage.read(first.sha256, { start: 5, end: 8 })) part.push(chunk as Buffer);
  expect(Buffer.concat(part)).toEqual(bytes.subarray(5, 9));
  await s.storage.storage.delete(first.sha256);
  expect(await s.storage.storage.stat(first.sha256)).toBeNull();
  expect(await s.storage.storage.stat('../../etc/passwd')).toBeNull();
});
