import { Readable } from 'node:stream';
import { emptyPattern } from '~core/arrangement/pattern/make-pattern';
import { beats, importAll, storeStaysWhole, openLibrary, until, wav, type Library, type Services } from './services';

let library: Library, s: Services, person: number;
beforeAll(async () => {
  library = await openLibrary();
  ({ s, person } = library);
});
afterAll(() => library.close());

describe('the life of an import', () => {
  storeStaysWhole(() => s);

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
    for (let k = 0; k < 12; k++) await s.imports.receiveFile(id, person, `stop ${k}.wav`, Readable.from([wav(beats(60.5 + k, 8))]));
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
  test('held, what waits waits; gone on with, all of it comes in', async () => {
    const id = await s.imports.openBatch({ packName: 'Held', vendor: '', licence: '', description: '' }, person),
      count = 10;
    for (let k = 0; k < count; k++) await s.imports.receiveFile(id, person, `held ${k}.wav`, Readable.from([wav(beats(70.3 + k, 6))]));
    await s.imports.startBatch(id, person);
    await until(async () => (await s.imports.listBatchFiles(id)).some((line) => line.state === 'done'));
    await s.imports.pauseBatch(id);
    const waiting = async () => (await s.imports.listBatchFiles(id)).filter(({ state }) => state === 'queued').length,
      idle = () =>
        until(
          async () =>
            (await s.db.selectRows("select 1 from graphile_worker.jobs where task_identifier = 'analyse-import-file'")).length === 0,
        );
    expect(await idle()).toBe(true);
    const held = await waiting();
    expect(held).toBeGreaterThan(0);
    await s.imports.resumeBatch(id);
    expect(await until(async () => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done')).toBe(true);
    expect((await s.imports.listBatchFiles(id)).filter(({ state }) => state === 'done')).toHaveLength(count);
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
    expect(await until(async () => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done')).toBe(true);
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
  test('a process that ends with the last file takes nothing along: the loops are still seen together, and the import is done', async () => {
    const { id } = await importAll(library, 'Cut short', [['cut 103 bpm.wav', wav(beats(103, 8))]]),
      [{ pack }] = await s.db.selectRows<{ pack: number }>('select pack_id as pack from import_batches where id = $1', [id]);
    // As it would lie there: the file has ended, and its job, which would tell nobody of it any more.
    await s.db.sequelize.query("delete from activity where verb = 'imported' and subject_id = $1", { bind: [pack] });
    await s.db.sequelize.query("update import_batches set state = 'analysing', finished_at = null where id = $1", { bind: [id] });
    await s.db.sequelize.transaction((transaction) => s.imports.settleUnlessWaiting(id, transaction));
    expect(await until(async () => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done')).toBe(true);
    expect(
      await until(
        async () => (await s.db.selectRows("select 1 from activity where verb = 'imported' and subject_id = $1", [pack])).length === 1,
      ),
    ).toBe(true);
    // Twice is as once.
    await s.imports.settleImport(id);
    expect(await s.db.selectRows("select 1 from activity where verb = 'imported' and subject_id = $1", [pack])).toHaveLength(1);
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
  test('an import whose page was closed is dropped three days after it last received something, a laptop closed for two is waited for', async () => {
    const open = () => s.imports.openBatch({ packName: 'Forgotten', vendor: '', licence: '', description: '' }, person),
      [old, fresh] = [await open(), await open()];
    await s.db.sequelize.query("update import_batches set touched_at = now() - interval '73 hours' where id = $1", { bind: [old] });
    await s.db.sequelize.query("update import_batches set touched_at = now() - interval '48 hours' where id = $1", { bind: [fresh] });
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
    // What somebody archived by itself does not come back with the rest, whichever way that goes and comes.
    await s.loops.archiveLoops([ids[0]], true, person);
    const [{ pack }] = await s.db.selectRows<{ pack: number }>('select pack_id as pack from loops where id = $1', [ids[0]]);
    expect(await s.imports.takeBackBatch(id, true, person)).toBe(1);
    expect(await s.imports.takeBackBatch(id, false, person)).toBe(1);
    expect(await state()).toEqual({ loops: 1, packs: 1 });
    expect(await s.imports.takeBackBatch(id, true, person)).toBe(1);
    await s.packs.archivePack(pack, false, person);
    expect(await state()).toEqual({ loops: 1, packs: 1 });
    expect(await s.db.selectRows('select 1 from import_batches where id = $1 and taken_back_at is not null', [id])).toEqual([]);
    await s.packs.archivePack(pack, true, person);
    await s.packs.archivePack(pack, true, person);
    expect(await state()).toEqual({ loops: 0, packs: 0 });
    await s.packs.archivePack(pack, false, person);
    expect(await state()).toEqual({ loops: 1, packs: 1 });
  });
  test('an archived pack is deleted for good with its files; what a project uses stays, and nothing goes that was not archived', async () => {
    const { lines } = await importAll(library, 'To be gone', [
        ['Gone 113 bpm.wav', wav(beats(113, 8))],
        ['Used 114 bpm.wav', wav(beats(114, 8))],
        ['Version 115 bpm.wav', wav(beats(115, 8))],
        ['Notes 116 bpm.wav', wav(beats(116, 8))],
      ]),
      loopOf = (word: string) => lines.find((line) => line.path.startsWith(word))?.loopId as number,
      used = loopOf('Used'),
      [{ pack }] = await s.db.selectRows<{ pack: number }>('select pack_id as pack from loops where id = $1', [used]);
    await s.fromLoop.projectFromLoop(used, person);
    // What sounds in a version alone would be missed where that is brought back.
    const made = await s.fromLoop.projectFromLoop(loopOf('Version'), person);
    if (!('id' in made)) throw new Error('no project');
    const [track] = (await s.projects.readTree(made.id))?.tracks ?? [],
      edit = async (edits: Parameters<typeof s.projects.editProject>[2]) =>
        expect(await s.projects.editProject(made.id, (await s.projects.treeNow(made.id))?.revision as number, edits, person)).toMatchObject(
          { ok: true },
        );
    await edit([
      { kind: 'add-pattern', pattern: emptyPattern({ id: 'notes', name: 'Notes', lengthBeats: 4, fromLoopId: loopOf('Notes') }) },
    ]);
    await s.room.keepVersion(made.id, 'With it', person);
    await edit([
      { kind: 'remove-pattern', patternId: 'notes' },
      { kind: 'remove-track', trackId: track.id },
    ]);
    expect(await s.deletePack.deletePackForGood(pack, person)).toMatchObject({
      ok: false,
      message: expect.stringMatching(/archived first/),
    });
    await s.packs.archivePack(pack, true, person);
    // The file and its sound.
    expect(await s.deletePack.deletePackForGood(pack, person)).toEqual({ ok: true, loops: 1, files: 2, kept: 3 });
    expect(await s.db.selectRows('select id from loops where pack_id = $1 order by id', [pack])).toEqual(
      [used, loopOf('Version'), loopOf('Notes')].sort((a, b) => a - b).map((id) => ({ id })),
    );
    expect(await s.deletePack.deletePackForGood(999_999, person)).toMatchObject({ ok: false });
  });
});
