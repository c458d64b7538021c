import type { Readable } from 'node:stream';
import { writeAiff } from '~core/formats/aiff/write';
import { encodeFlac } from '../../demo/encode/flac';
import { unzipped } from '../generators/unzipped';
import { beats, importAll, openLibrary, wav, zipOf, type Library } from './services';

const load = () => import('~server/services/facts-out.server');
let library: Library, out: Awaited<ReturnType<typeof load>>, ids: number[];
/** Names say nothing, so that what comes back came from inside the files. */
const sounds = [beats(92, 16), beats(103, 16), beats(117, 16)];
beforeAll(async () => {
  library = await openLibrary();
  out = await load();
  const flac = await encodeFlac([Int32Array.from(sounds[2], (value) => Math.round(value * 32767))], 44100, 16),
    { lines } = await importAll(library, 'Outward', [
      ['a.wav', wav(sounds[0])],
      ['b.aif', Buffer.from(writeAiff({ sampleRateHz: 44100, channels: [sounds[1]] }, 16))],
      ['c.flac', Buffer.from(flac)],
    ]);
  ids = [...lines].sort((a, b) => a.path.localeCompare(b.path)).map(({ loopId }) => loopId as number);
  // A person says what nobody would hear.
  for (const [k, id] of ids.entries()) {
    await library.s.words.correctFact(id, { attribute: 'tempo', value: [46, 51.5, 58.5][k] }, library.person);
    await library.s.words.correctFact(id, { attribute: 'key', value: { tonic: 3 + k, mode: 'minor' } }, library.person);
  }
});
afterAll(() => library.close());

async function bytesOf(stream: Readable | null): Promise<Buffer> {
  const parts: Buffer[] = [];
  for await (const part of stream as Readable) parts.push(part as Buffer);
  return Buffer.concat(parts);
}
const columns = (where: string, bind: unknown) =>
  library.s.db.selectRows<{ file: string; sound: string; tempo: number; tonic: number; mode: string; title: string }>(
    `select l.file_name as file, l.sound_sha256 as sound, l.tempo_bpm as tempo, l.key_tonic as tonic, l.key_mode as mode, l.title
     from loops l join packs p on p.id = l.pack_id where ${where} order by l.file_name`,
    [bind],
  );

test('what is known goes out in the files and comes back in another library; the sound is the same to the bit', async () => {
  const zip = await bytesOf(await out.zipOfLoops(ids, 'vendor')),
    before = await columns('l.id = any($1::int[])', ids);
  const { lines } = await importAll(library, 'Back again', [['loops.zip', zip]]);
  expect(lines.filter(({ state }) => state === 'done' && true).length).toBeGreaterThanOrEqual(3);
  const after = await columns('p.name = $1', 'Back again');
  expect(after.map(({ file, sound }) => [file, sound])).toEqual(before.map(({ file, sound }) => [file, sound]));
  for (const [k, row] of after.entries()) {
    expect([row.file, row.tempo]).toEqual([row.file, expect.closeTo(before[k].tempo, 1)]);
    expect([row.tonic, row.mode]).toEqual([before[k].tonic, before[k].mode]);
  }
});
test('the manifests name each file once, with its licence and hash', async () => {
  const zip = await bytesOf(await out.zipOfLoops([...ids, ids[0]], 'title')),
    { lines } = await importAll(library, 'Titled', [['titled.zip', zip]]);
  expect(lines.map(({ path }) => path).filter((path) => /\.(wav|aif|flac)$/.test(path))).toHaveLength(4);
  expect(await out.zipOfLoops([999_999], 'vendor')).toBeNull();
});
test('files go out under names by a pattern', async () => {
  const zip = await bytesOf(await out.zipOfLoops(ids, { pattern: '{tempo} {key} {n2}' })),
    { lines } = await importAll(library, 'By pattern', [['pattern.zip', zip]]);
  expect(
    lines
      .map(({ path }) => path)
      .filter((path) => /\.(wav|aif|flac)$/.test(path))
      .sort(),
  ).toEqual(['Outward/46 E♭ minor 01.wav', 'Outward/52 E minor 02.aif', 'Outward/59 F minor 03.flac']);
});
test('CSV by RFC 4180: what holds commas, quotes or lines is quoted', () => {
  expect(out.csvOf([{ name: 'a, "b"', list: ['x', 'y'], none: null }])).toBe('name,list,none\r\n"a, ""b""",x; y,\r\n');
  expect(out.csvOf([])).toBe('');
});
test('a zip of nothing but ours is a zip', async () => {
  const zip = await zipOf([['x.txt', Buffer.from('x')]]);
  expect((await bytesOf(await out.zipOfLoops([ids[0]], 'vendor'))).subarray(0, 2)).toEqual(zip.subarray(0, 2));
});
test('a loop whose file is missing costs itself, and is named', async () => {
  const { lines } = await importAll(library, 'Thinned out', [
      ['kept.wav', wav(beats(95, 8))],
      ['lost.wav', wav(beats(96, 8))],
    ]),
    both = lines.map(({ loopId }) => loopId as number),
    [{ sha }] = await library.s.db.selectRows<{ sha: string }>(
      "select file_sha256 as sha from loops where file_name = 'lost.wav' and id = any($1::int[])",
      [both],
    );
  await library.s.storage.storage.delete(sha);
  const files = await unzipped(await bytesOf(await out.zipOfLoops(both, 'vendor')));
  expect([...files.keys()]).toEqual(['Thinned out/kept.wav', 'manifest.json', 'manifest.csv', 'Licences.txt', 'Left out.txt']);
  expect(files.get('Left out.txt')?.toString()).toMatch(/Lost, Thinned out/i);
});
