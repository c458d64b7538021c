import { existsSync, readdirSync } from 'node:fs';
import { join } from 'node:path';
import { Readable } from 'node:stream';
import { parseLoopQuery } from '~core/search/query';
import { writeSmf } from '~core/formats/smf/write';
import { rateHz, sine } from '../generators/signals';
import { beats, importAll, storeStaysWhole, openLibrary, until, wav, zipOf, type Library, type Services } from './services';

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
  storeStaysWhole(() => s);

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
  test('what was said of an import before holds for all of it: tags, folders and endings left out; the vendor is remembered', async () => {
    const id = await s.imports.openBatch(
        { packName: 'Said before', vendor: 'Habit House', licence: 'Free', description: '', tags: 'Rain, late', leaveOut: 'Demos, .mid' },
        person,
      ),
      zip = await zipOf([
        ['Loops/kept 123 bpm.wav', wav(beats(123, 8))],
        ['Demos/whole piece.wav', wav(beats(125, 8))],
        ['Loops/notes.mid', Buffer.from(writeSmf({ notes: [], lengthBeats: 4 }))],
      ]);
    await s.imports.receiveFile(id, person, 'said.zip', Readable.from([zip]));
    await s.imports.receiveFile(id, person, 'Demos/another.wav', Readable.from([wav(beats(127, 8))]));
    await s.imports.startBatch(id, person);
    expect(await until(async () => (await s.imports.listBatches(50)).find((batch) => batch.id === id)?.state === 'done')).toBe(true);
    const lines = await s.imports.listBatchFiles(id),
      left = lines.filter(({ state, message }) => state === 'left-aside' && message?.startsWith('left out')).map(({ path }) => path);
    expect(left.sort()).toEqual(['Demos/another.wav', 'Demos/whole piece.wav', 'Loops/notes.mid']);
    const kept = lines.find(({ path }) => path.endsWith('kept 123 bpm.wav'))?.loopId as number;
    expect((await s.loops.findLoop(kept, person))?.tags).toEqual(['late', 'rain']);
    expect(await s.search.countLoops(await s.search.searchFor(parseLoopQuery(new URLSearchParams('q=rain')), person))).toBe(1);
    expect((await s.imports.listVendorHabits())[0]).toEqual({
      vendor: 'Habit House',
      licence: 'Free',
      tags: ['rain', 'late'],
      leaveOut: ['demos', '.mid'],
      duplicates: 'skip',
    });
  });
  test('an archive inside an archive is unpacked, one level down, and one inside that is left aside', async () => {
    const deepest = await zipOf([['too deep.wav', wav(beats(121, 8))]]),
      inner = await zipOf([
        ['inside 119 bpm.wav', wav(beats(119, 8))],
        ['deepest.zip', deepest],
      ]),
      outer = await zipOf([
        ['beside 117 bpm.wav', wav(beats(117, 8))],
        ['Drums/inner.zip', inner],
      ]),
      { lines } = await importAll(library, 'Nested', [['outer.zip', outer]]),
      state = (end: string) => lines.find(({ path }) => path.endsWith(end))?.state;
    expect([state('beside 117 bpm.wav'), state('Drums/inner/inside 119 bpm.wav')]).toEqual(['done', 'done']);
    expect(state('deepest.zip')).toBe('left-aside');
    expect(lines.some(({ path }) => path.includes('too deep'))).toBe(false);
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
