import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { ZipFile } from 'yazl';
import { emptyQuery } from '~core/search/query';
import { writeWav } from '~core/formats/wav/write';
import { hits, rateHz, sine } from '../generators/signals';
import { freshDatabase } from './database';

/** The services are loaded after the database is made, since they read its address once. */
const load = async () => ({
  imports: await import('~server/services/imports.server'),
  people: await import('~server/services/people.server'),
  search: await import('~server/services/search.server'),
  loops: await import('~server/services/loops.server'),
  doubts: await import('~server/services/doubts.server'),
  projects: await import('~server/services/projects.server'),
  reanalysis: await import('~server/services/reanalysis.server'),
  runner: await import('~server/jobs/runner.server'),
  db: await import('~server/db/connection'),
  storage: await import('~server/storage/storage.server'),
});
type Services = Awaited<ReturnType<typeof load>>;
let s: Services, close: () => Promise<void>, person: number, runner: { stop: () => Promise<void> };

beforeAll(async () => {
  close = await freshDatabase();
  s = await load();
  const added = await s.people.addPerson('Ada Quill', 'a long password', null);
  if (!added.ok) throw new Error('not added');
  person = added.id;
  runner = await s.runner.startRunner();
});
afterAll(async () => {
  await runner.stop();
  await close();
});

const beats = (tempo: number, count: number) =>
  hits(
    Array.from({ length: count }, (_, k) => (k * 60) / tempo + 0.001),
    (count * 60) / tempo,
    tempo,
  );
const wav = (samples: Float32Array) => Buffer.from(writeWav({ sampleRateHz: rateHz, channels: [samples] }, 'int16'));

async function zipOf(files: readonly (readonly [string, Buffer])[]): Promise<Buffer> {
  const zip = new ZipFile();
  for (const [path, bytes] of files) zip.addBuffer(bytes, path);
  zip.end();
  const parts: Buffer[] = [];
  for await (const part of zip.outputStream) parts.push(part as Buffer);
  return Buffer.concat(parts);
}

async function importAll(
  packName: string,
  files: readonly (readonly [string, Buffer])[],
): Promise<{ id: number; lines: Awaited<ReturnType<Services['imports']['listBatchFiles']>> }> {
  const id = await s.imports.openBatch({ packName, vendor: 'Quay Street Keys', licence: '', description: '' }, person);
  for (const [path, bytes] of files) expect(await s.imports.receiveFile(id, person, path, Readable.from([bytes]))).toEqual({ ok: true });
  await s.imports.startBatch(id, person);
  for (let tries = 0; tries < 600; tries++) {
    const batch = (await s.imports.listBatches(50)).find((each) => each.id === id);
    if (batch && ['done', 'failed', 'cancelled'].includes(batch.state)) return { id, lines: await s.imports.listBatchFiles(id) };
    await new Promise((next) => setTimeout(next, 50));
  }
  throw new Error('the import did not end');
}

/** Rewrites every place of a name in a zip; both names must be as long. */
function renamed(zip: Buffer, from: string, to: string): Buffer {
  const out = Buffer.from(zip);
  for (let at = out.indexOf(from); at >= 0; at = out.indexOf(from, at + to.length)) out.write(to, at, 'latin1');
  return out;
}

describe('import', () => {
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
    const { lines } = await importAll('Mixed bag', [['bag.zip', plain]]);
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
    const { lines } = await importAll('Long player', [['rehearsal.wav', wav(long)]]);
    expect(lines).toEqual([expect.objectContaining({ state: 'done' })]);
    const [loop] = await s.db.selectRows<{ sha: string; frames: number; seconds: number; print: Buffer; likeness: Buffer }>(
      "select sound_sha256 as sha, sound_frames as frames, length_seconds as seconds, print, likeness from loops where title ilike 'rehearsal'",
    );
    expect(loop.frames).toBe(long.length);
    expect(loop.seconds).toBeCloseTo(160, 3);
    expect(loop.likeness).toHaveLength(32);
    expect(loop.print.length).toBeGreaterThan(4 * 1000);
    expect((await s.storage.storage.stat(loop.sha))?.bytes).toBe(44 + long.length * 4);
    const scratchDir = join(process.env.GARNETFINCH_DATA as string, 'scratch');
    expect(existsSync(scratchDir) ? readdirSync(scratchDir) : []).toEqual([]);
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
    const { lines } = await importAll('Climber', [['climb.zip', evil]]);
    expect(lines.find((line) => line.path.includes('evil'))).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('out of the archive'),
    });
    expect(lines.find((line) => line.path === 'fine 90.wav')).toMatchObject({ state: 'done' });
  });
  test('an archive that grows out of almost nothing is refused (CWE-409), and so is one that is none', async () => {
    const { lines } = await importAll('Bomb', [
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
    const { lines } = await importAll('Locked', [['locked.zip', zip]]);
    expect(lines.find((line) => line.path === 'locked.wav')).toMatchObject({
      state: 'failed',
      message: expect.stringContaining('encrypted'),
    });
  });
  test('the same file twice is one loop', async () => {
    const same = wav(beats(97, 8));
    const { lines } = await importAll('Twins', [
      ['one.wav', same],
      ['two.wav', same],
    ]);
    expect(lines.map((line) => [line.path, line.state]).sort()).toEqual([
      ['one.wav', 'done'],
      ['two.wav', 'duplicate'],
    ]);
    const { lines: later } = await importAll('Twins again', [['three.wav', same]]);
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
    const { id, lines } = await importAll('Again', [['again 111 bpm.wav', wav(beats(111, 8))]]);
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
});

describe('facts', () => {
  test('a correction outranks, stays, is recorded with its person, and can be taken back', async () => {
    const { lines } = await importAll('To correct', [['Groove 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number,
      tempo = async () => (await s.loops.findLoop(id, person))?.row.source.tempoBpm;
    expect(await tempo()).toBeCloseTo(120, 1);
    await s.loops.correctFact(id, { attribute: 'tempo', value: 60 }, person);
    await s.loops.correctFact(id, { attribute: 'tempo', value: 240 }, person);
    const detail = await s.loops.findLoop(id, person);
    expect(detail?.row.source).toMatchObject({ tempoBpm: 240, beats: 32 });
    expect(detail?.facts.filter((fact) => fact.source === 'person')).toMatchObject([{ person: 'Ada Quill', value: 240 }]);
    expect(detail?.chosen.tempo?.alternatives.some((each) => Math.abs(Number(each.value) - 120) < 1)).toBe(true);
    await s.loops.withdrawCorrection(id, 'tempo', person);
    expect(await tempo()).toBeCloseTo(120, 1);
    expect(
      await s.db.selectRows("select 1 from facts where loop_id = $1 and source = 'person' and superseded_at is not null", [id]),
    ).toHaveLength(2);
  });
  test('the first bar can be moved inside the sound and nowhere else, and comes back where it was heard', async () => {
    const { lines } = await importAll('To move', [['Move 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number,
      first = async () => {
        const { row, startSeconds } = (await s.loops.findLoop(id, person)) as NonNullable<Awaited<ReturnType<typeof s.loops.findLoop>>>;
        return [startSeconds, row.source.startFrame, row.source.beats];
      };
    const heard = await first();
    expect(heard).toEqual([0, 0, 16]);
    expect(await s.loops.correctFact(id, { attribute: 'start', value: 0.5 }, person)).toBeNull();
    expect(await first()).toEqual([0.5, 22050, 12]);
    expect(await s.loops.correctFact(id, { attribute: 'start', value: 90 }, person)).toMatch(/inside the sound, which is 8\.00 s long/);
    expect(await first()).toEqual([0.5, 22050, 12]);
    await s.loops.withdrawCorrection(id, 'start', person);
    expect(await first()).toEqual(heard);
  });
  test('what is in doubt is queued, the most doubtful first, and leaves when a person agrees; taken back, it returns', async () => {
    const { lines } = await importAll('In doubt', [
      ['Who Knows.wav', wav(beats(100, 8))],
      ['Some Thing.wav', wav(sine(220, 3))],
    ]);
    const ids = lines.map((line) => line.loopId as number);
    // Doubts made to order: the queue reads what is stored.
    await s.db.sequelize.query(
      'update loops set tempo_confidence = 0.9, key_confidence = 0.99, kind_confidence = 0.6, instrument_confidence = 0.31 where id = $1',
      { bind: [ids[0]] },
    );
    await s.db.sequelize.query(
      'update loops set tempo_confidence = null, key_confidence = 0.5, kind_confidence = 0.95, instrument_confidence = 0.86 where id = $1',
      { bind: [ids[1]] },
    );
    const mine = async (only: 'kind' | 'tempo' | null = null) =>
      (await s.doubts.findDoubts(person, only)).doubts
        .filter(({ row }) => ids.includes(row.id))
        .map(({ row, attribute }) => [ids.indexOf(row.id), attribute]);
    expect(await mine()).toEqual([
      [0, 'instrument'],
      [1, 'key'],
      [0, 'kind'],
    ]);
    expect(await mine('kind')).toEqual([[0, 'kind']]);
    expect(await mine('tempo')).toEqual([]);
    const before = await s.doubts.findDoubts(person),
      asked = before.doubts.find(({ row, attribute }) => row.id === ids[0] && attribute === 'instrument');
    expect(before.counts.instrument).toBeGreaterThanOrEqual(1);
    await s.doubts.agree([{ loopId: ids[0], attribute: 'instrument' }], person);
    expect((await mine()).some(([index, attribute]) => index === 0 && attribute === 'instrument')).toBe(false);
    const detail = await s.loops.findLoop(ids[0], person);
    expect(detail?.row.source.instrument).toBe(asked?.value);
    expect(detail?.facts.find((fact) => fact.source === 'person')).toMatchObject({
      attribute: 'instrument',
      value: asked?.value,
      person: 'Ada Quill',
    });
    await s.doubts.takeBack([{ loopId: ids[0], attribute: 'instrument' }], person);
    const confidence = (await s.loops.findLoop(ids[0], person))?.chosen.instrument?.confidence ?? 1;
    expect((await mine()).some(([index, attribute]) => index === 0 && attribute === 'instrument')).toBe(confidence < 0.85);
  });
  test('a loop of an older analyser is heard again: facts are added, a person’s word stays', async () => {
    const { lines } = await importAll('Of old', [['Old Groove 120 bpm.wav', wav(beats(120, 16))]]);
    const id = lines[0].loopId as number;
    await s.loops.correctFact(id, { attribute: 'instrument', value: 'shaker' }, person);
    await s.db.sequelize.query('update loops set analyser_version = 1, detail = null, tempo_bpm = 77 where id = $1', { bind: [id] });
    const before = await s.db.selectRows('select 1 from facts where loop_id = $1', [id]);
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(1);
    for (let tries = 0; tries < 400; tries++) {
      const [{ version }] = await s.db.selectRows<{ version: number }>('select analyser_version as version from loops where id = $1', [id]);
      if (version > 1) break;
      await new Promise((next) => setTimeout(next, 50));
    }
    const detail = await s.loops.findLoop(id, person);
    expect(detail?.row.source).toMatchObject({ instrument: 'shaker', tempoBpm: expect.closeTo(120, 0) });
    expect(detail?.analysis?.readings.length).toBeGreaterThan(1);
    expect((await s.db.selectRows('select 1 from facts where loop_id = $1', [id])).length).toBeGreaterThan(before.length);
    expect(
      await s.db.selectRows("select 1 from facts where loop_id = $1 and source = 'person' and superseded_at is null", [id]),
    ).toHaveLength(1);
    expect(await s.reanalysis.queueOutdatedLoops()).toBe(0);
    await s.reanalysis.analyseAgain(id);
  });
  test('the database refuses what cannot be', async () => {
    const bad = async (sql: string) => {
      await expect(s.db.sequelize.query(sql)).rejects.toThrow();
    };
    await bad(
      "insert into facts (loop_id, attribute, value, confidence, source, analyser_version) values (1, 'tempo', '1', 2, 'sound', 1)",
    );
    await bad(
      "insert into facts (loop_id, attribute, value, confidence, source, analyser_version) values (1, 'tempo', '1', 1, 'person', 1)",
    );
    await bad("update loops set kind = 'one-shot' where tempo_bpm is not null");
    await bad('update loops set key_tonic = 3, key_mode = null');
    await bad("insert into projects (name, tempo_bpm, created_by) values ('x', 0, 1)");
    await bad("insert into people (name, password_hash) values ('ADA QUILL', 'x')");
  });
});

describe('search', () => {
  const find = async (changes: Partial<typeof emptyQuery>) =>
    (await s.search.findLoops({ ...emptyQuery, ...changes }, person, { tempoBpm: 120, key: null }, 0)).rows.map((row) => row.fileName);
  test('words and prefixes, in any place; nothing of a person becomes SQL', async () => {
    expect(await find({ words: 'groov' })).toEqual(['Groove 120 bpm.wav']);
    expect(await find({ words: 'quay again' })).toEqual(['again 111 bpm.wav']);
    expect(await find({ words: "'; drop table loops; --" })).toEqual([]);
    expect(await find({ words: "it's & | ! :* (" })).toEqual([]);
  });
  test('filters, counts and charts agree', async () => {
    const query = { ...emptyQuery, tempo: { fromBpm: 110, toBpm: 125 } };
    const rows = await find(query),
      facets = await s.search.countFacets(query, person);
    expect(await s.search.countLoops(query, person)).toBe(rows.length);
    expect(facets.kind.reduce((sum, each) => sum + each.count, 0)).toBe(rows.length);
    // Its own range does not hide the rest of the tempo chart.
    expect(facets.tempo.reduce((sum, each) => sum + each.count, 0)).toBeGreaterThan(rows.length);
  });
  test('sorting by every column, by fit too, and favourites per person', async () => {
    const everything = (await find({})).length;
    for (const sort of ['added', 'title', 'instrument', 'tempo', 'key', 'bars', 'length', 'loudness', 'pack', 'kind', 'fit'] as const)
      for (const descending of [true, false]) expect((await find({ sort, descending })).length).toBe(everything);
    expect((await find({ sort: 'fit', descending: true }))[0]).toMatch(/120 bpm/);
    const { rows } = await s.search.findLoops(emptyQuery, person, null, 0);
    await s.loops.setFavourite(person, rows[0].id, true);
    await s.loops.setFavourite(person, rows[0].id, true);
    expect(await find({ favourites: true })).toEqual([rows[0].fileName]);
    const other = await s.people.addPerson('Bo Tarn', 'another password', person);
    expect(other.ok && (await s.search.countLoops({ ...emptyQuery, favourites: true }, other.id))).toBe(0);
    await s.loops.archiveLoops([rows[0].id], true, person);
    expect((await find({})).length).toBe(everything - 1);
    await s.loops.archiveLoops([rows[0].id], false, person);
    expect((await find({})).length).toBe(everything);
  });
});

describe('projects', () => {
  const tree = {
    kind: 'project' as const,
    name: 'Engine Room',
    tempoBpm: 124,
    key: { tonic: 2, mode: 'minor' as const },
    meter: '4/4',
    masterGainDb: -1,
    sections: [{ kind: 'section' as const, id: 's', name: 'Main', startBeat: 0, lengthBeats: 32 }],
    chords: [{ startBeat: 0, symbol: 'Dm7' }],
    tracks: [],
  };
  test('what is stored comes back; stale edits change nothing; nonsense is refused as a whole', async () => {
    const id = await s.projects.createProject(tree, person);
    expect((await s.projects.openProject(id, person))?.project).toEqual(tree);
    expect(await s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { tempoBpm: 100 } }])).toEqual({ ok: true, revision: 1 });
    expect(await s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { tempoBpm: 90 } }])).toMatchObject({
      ok: false,
      reason: 'stale',
      revision: 1,
    });
    for (const nonsense of [
      { kind: 'set-project', changes: { tempoBpm: 1 } },
      { kind: 'fly' },
      null,
      {
        kind: 'add-track',
        index: 0,
        track: {
          kind: 'track',
          id: 't',
          name: 'T',
          colour: 0,
          gainDb: 0,
          pan: 0,
          muted: false,
          soloed: false,
          clips: [
            {
              kind: 'clip',
              id: 'c',
              loopId: 999_999,
              startBeat: 0,
              lengthBeats: 4,
              offsetBeats: 0,
              gainDb: 0,
              shiftSemitones: 0,
              followTempo: true,
              followKey: true,
            },
          ],
        },
      },
    ]) {
      expect(await s.projects.editProject(id, 1, [{ kind: 'set-project', changes: { name: 'half' } }, nonsense as never])).toMatchObject({
        ok: false,
        reason: 'refused',
      });
    }
    expect((await s.projects.openProject(id, person))?.project).toMatchObject({ name: 'Engine Room', tempoBpm: 100 });
  });
  test('of two edits at the same time one is told', async () => {
    const id = await s.projects.createProject(tree, person);
    const results = await Promise.all(
      [96, 97, 98].map((tempoBpm) => s.projects.editProject(id, 0, [{ kind: 'set-project', changes: { tempoBpm } }])),
    );
    expect(results.filter((result) => result.ok)).toHaveLength(1);
  });
});

describe('accounts (OWASP cheat sheets on password storage and sessions)', () => {
  test('hashes are scrypt, salted, and verify', async () => {
    const [a, b] = await Promise.all([s.people.hashPassword('night ferry'), s.people.hashPassword('night ferry')]);
    expect(a).toMatch(/^scrypt\$32768\$8\$3\$/);
    expect(a).not.toBe(b);
    expect([await s.people.verifyPassword('night ferry', a), await s.people.verifyPassword('day ferry', a)]).toEqual([true, false]);
  });
  test('sign in, be known, sign out, be a stranger; six wrong tries and the name waits', async () => {
    const right = await s.people.signIn('ada quill', 'a long password', '127.0.0.1');
    if (!right.ok) throw new Error('not signed in');
    expect(await s.people.findSignedIn(right.token)).toMatchObject({ id: person, name: 'Ada Quill' });
    expect(await s.db.selectRows("select 1 from sessions where encode(token_hash, 'escape') like $1", [`%${right.token}%`])).toEqual([]);
    await s.people.signOut(right.token);
    expect(await s.people.findSignedIn(right.token)).toBeNull();
    for (let attempt = 0; attempt < 6; attempt++)
      expect(await s.people.signIn('Ada Quill', 'wrong', 'x')).toEqual({ ok: false, reason: 'wrong' });
    expect(await s.people.signIn('Ada Quill', 'a long password', 'y')).toEqual({ ok: false, reason: 'too-many' });
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
