import { spawnSync } from 'node:child_process';
import { chmodSync, mkdirSync, mkdtempSync, readFileSync, rmSync, symlinkSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { dirname, join } from 'node:path';
import { writeSmf } from '../../core/formats/smf/write';
import { writeWav } from '../../core/formats/wav/write';
import { chord, hits, rateHz } from '../generators/signals';

/* `npm run -s analyze` as a script would call it. */

const script = join(__dirname, '../../scripts/analyze.mjs');
let folder: string;

const wav = (...channels: Float32Array[]) => writeWav({ sampleRateHz: rateHz, channels }, 'int16');
/** Two bars of sixteenths with an accent on each beat, at 96 bpm. */
const groove = wav(
  hits(
    Array.from({ length: 32 }, (_, k) => (k * 15) / 96),
    5,
  ),
);
const files: Readonly<Record<string, Uint8Array>> = {
  'Pack/Groove_60bpm.wav': groove,
  'Pack/Deep/Pad C minor.wav': wav(chord([48, 60, 63, 67], 4)),
  'Pack/Hit.wav': wav(hits([0.001], 0.3)),
  'Pack/Silence.wav': wav(new Float32Array(rateHz)),
  'Pack/Cut off.wav': groove.subarray(0, 30),
  'Pack/Only called so.mp3': new TextEncoder().encode('This is no sound.'),
  'Pack/Tune.mid': writeSmf({
    tempoBpm: 110,
    meter: '4/4',
    notes: [62, 65, 69, 62, 65, 69, 74, 62].map((pitch, k) => ({ startBeat: k, lengthBeats: 0.9, pitch, velocity: 90, channel: 0 })),
    lengthBeats: 8,
  }),
  'Pack/Notes.txt': new TextEncoder().encode('Nothing to hear.'),
  'Pack/._Groove_60bpm.wav': new Uint8Array(64),
};

beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'garnetfinch-analyze-'));
  for (const [name, bytes] of Object.entries(files)) {
    mkdirSync(dirname(join(folder, name)), { recursive: true });
    writeFileSync(join(folder, name), bytes);
  }
  mkdirSync(join(folder, 'Empty'));
});
afterAll(() => rmSync(folder, { recursive: true, force: true }));

interface Row {
  readonly file: string;
  readonly error?: string;
  readonly [fact: string]: unknown;
}
/** Runs the command in the folder of the files; its rows by file name, and what it complained of. */
function analyze(...args: string[]) {
  const { status, stdout, stderr } = spawnSync(process.execPath, [script, ...args], {
      cwd: folder,
      encoding: 'utf8',
      env: { ...process.env, INIT_CWD: folder, NODE_OPTIONS: '--no-deprecation' },
    }),
    rows = stdout.split('\n').flatMap((line) => (line ? [JSON.parse(line) as Row] : []));
  return { status, stderr, rows, byFile: new Map(rows.map((row) => [row.file, row])) };
}

test('a folder with all below it: a row for each sound, in order; what cannot be read says why and costs no other row', () => {
  const { status, stderr, rows, byFile } = analyze('--json', 'Pack');
  expect(status).toBe(1);
  expect(rows.map(({ file }) => file)).toEqual([
    'Cut off.wav',
    'Deep/Pad C minor.wav',
    'Groove_60bpm.wav',
    'Hit.wav',
    'Only called so.mp3',
    'Silence.wav',
    'Tune.mid',
  ]);
  for (const broken of ['Cut off.wav', 'Only called so.mp3']) {
    const { error, ...others } = byFile.get(broken) as Row;
    expect(error).toMatch(/^[A-Z].+\.$/);
    expect(others).toEqual({ file: broken });
    expect(stderr).toContain(`${broken}: ${error}`);
  }
  expect(rows.filter(({ error }) => error)).toHaveLength(2);
  expect(byFile.get('Deep/Pad C minor.wav')).toMatchObject({ pitched: true, key: { tonic: 0, mode: 'minor' }, lengthSeconds: 4 });
  expect(byFile.get('Hit.wav')).toMatchObject({ kind: 'one-shot', tempoBpm: null, beats: null, bars: null, pitched: false, key: null });
  expect(byFile.get('Silence.wav')).toMatchObject({ tempoBpm: null, key: null, loudnessLufs: null });
  // Notes are known exactly.
  expect(byFile.get('Tune.mid')).toMatchObject({ tempoBpm: 110, beats: 8, bars: 2, meter: '4/4', key: { tonic: 2, mode: 'minor' } });
  expect(stderr).toContain('7 of 7');
});

test('a link that leads nowhere, a folder called like a sound and what may not be read are told, and cost no other file', () => {
  const odd = join(folder, 'Odd');
  mkdirSync(join(odd, 'Folder.wav'), { recursive: true });
  mkdirSync(join(odd, 'Closed'));
  symlinkSync(join(odd, 'gone.wav'), join(odd, 'Link.wav'));
  writeFileSync(join(odd, 'Hit.wav'), files['Pack/Hit.wav']);
  writeFileSync(join(odd, 'Closed', 'Hit.wav'), files['Pack/Hit.wav']);
  chmodSync(join(odd, 'Closed'), 0);
  const { status, stderr, byFile } = analyze('--json', 'Odd');
  chmodSync(join(odd, 'Closed'), 0o755);
  expect(status).toBe(1);
  expect(byFile.get('Hit.wav')).toMatchObject({ kind: 'one-shot' });
  expect(byFile.get('Link.wav')).toEqual({ file: 'Link.wav', error: 'There is no such file: the link to it leads nowhere.' });
  // Root may read everything.
  if (process.getuid?.() !== 0) expect(stderr).toContain('Odd/Closed: the folder may not be read');
  expect([...byFile.keys()].filter((name) => !name.startsWith('Closed'))).toEqual(['Hit.wav', 'Link.wav']);
});

test('names count, unless only the sound may', () => {
  const named = analyze('--json', 'Pack/Groove_60bpm.wav'),
    heard = analyze('--json', '--audio-only', 'Pack/Groove_60bpm.wav');
  expect([named.status, heard.status]).toEqual([0, 0]);
  type Source = { readonly source: string };
  const sources = ({ rows }: typeof named) => new Set((rows[0].evidence as Source[]).map(({ source }) => source));
  expect(sources(named)).toContain('file-name');
  expect([...sources(heard)]).toEqual(['sound']);
  // 60 bpm has no whole number of bars here; the name is a wrong one, and the sound outvotes it.
  expect(heard.rows[0].tempoBpm).toBeCloseTo(96, 0);
  expect(named.rows[0].tempoBpm).toBeCloseTo(96, 0);
  expect(named.rows[0].tempoConfidence).toBeLessThan(heard.rows[0].tempoConfidence as number);
});

test('results go to a file when one is named, and nothing else to standard output', () => {
  const { status, rows } = analyze('--out', 'found.jsonl', '--jobs', '1', 'Pack/Hit.wav', 'Pack/Silence.wav');
  expect({ status, rows }).toEqual({ status: 0, rows: [] });
  const lines = readFileSync(join(folder, 'found.jsonl'), 'utf8').trim().split('\n');
  expect(lines.map((line) => (JSON.parse(line) as Row).file)).toEqual(['Hit.wav', 'Silence.wav']);
});

test('a path that is not there is named, and the others are analysed', () => {
  const { status, stderr, rows } = analyze('--json', 'Pack/Hit.wav', 'Elsewhere');
  expect(status).toBe(1);
  expect(stderr).toContain('Elsewhere: there is no such file or folder');
  expect(rows.map(({ file }) => file)).toEqual(['Hit.wav']);
});

test.each([
  ['nothing asked for', [], /npm run -s analyze -- \[--audio-only\]/],
  ['an option that does not exist', ['--loud', 'Pack'], /'--loud'/],
  ['nothing there', ['Empty'], /There is nothing to analyse\./],
])('%s: exit code 2 and a word about it', (_, args, words) => {
  const { status, stderr, rows } = analyze(...args);
  expect({ status, rows }).toEqual({ status: 2, rows: [] });
  expect(stderr).toMatch(words);
});
