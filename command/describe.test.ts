import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { bytesInMemory } from '~core/formats/byte-source';
import { writeSmf } from '~core/formats/smf/write';
import { writeWav } from '~core/formats/wav/write';
import { chord, hits, sine } from '../test/generators/signals';
import { summaryLine } from './summary-line';
import { describe as describeAnalysis } from './describe';
import { hearSource } from '../server/jobs/pool/analyse-file';

const wav = (channels: Float32Array[], sampleRateHz = 44100) => writeWav({ sampleRateHz, channels }, 'float32');
const heard = (bytes: Uint8Array, path = '') => hearSource(bytesInMemory(bytes), path, { withTags: false, wavPath: null });
const known = async (bytes: Uint8Array, path = '') => describeAnalysis((await heard(bytes, path)).analysis, []);
const schema = JSON.parse(readFileSync(join(__dirname, '../docs/formats/analysis.schema.json'), 'utf8')) as {
  $defs: { known: { required: string[]; properties: Record<string, unknown> } };
};

/** Every number in it is one, however deep. */
const allFinite = (value: unknown): boolean =>
  typeof value === 'number'
    ? Number.isFinite(value)
    : Array.isArray(value)
      ? value.every(allFinite)
      : value !== null && typeof value === 'object' && !ArrayBuffer.isView(value)
        ? Object.values(value).every(allFinite)
        : true;

const noise = (frames: number) => {
  let state = 1;
  return Float32Array.from({ length: frames }, () => {
    state = (state * 1103515245 + 12345) & 0x7fffffff;
    return state / 2 ** 30 - 1;
  });
};
const grooveTimes = Array.from({ length: 16 }, (_, k) => (k * 30) / 96 + 0.001);

test('the object has all that its schema requires, and nothing the schema does not know', async () => {
  const object = { file: 'x.wav', ...(await known(wav([hits(grooveTimes, 5)]))) } as Record<string, unknown>;
  for (const name of schema.$defs.known.required) expect(object).toHaveProperty(name);
  for (const name of Object.keys(object)) expect(Object.keys(schema.$defs.known.properties)).toContain(name);
});

test('a loop has a tempo and bars, a hit has none; a name is believed only when it may be', async () => {
  const groove = wav([hits(grooveTimes, 5)]);
  expect(await known(groove)).toMatchObject({ kind: 'loop', pitched: false, key: null, loopStartSeconds: expect.closeTo(0, 2) });
  expect(await known(wav([hits([0.001], 0.4)]))).toMatchObject({
    kind: 'one-shot',
    tempoBpm: null,
    beats: null,
    bars: null,
    loopEndSeconds: null,
  });
  expect((await known(groove, 'Packs/Groove 96 bpm.wav')).tempoBpm).toBeCloseTo(96, 0);
  expect((await known(groove)).evidence.every((each) => each.source === 'sound')).toBe(true);
  expect((await known(wav([chord([48, 60, 64, 67], 4)]), 'Pad C minor.wav')).evidence.some((each) => each.source === 'file-name')).toBe(
    true,
  );
});

test('a MIDI file is known from its notes', async () => {
  const notes = Array.from({ length: 8 }, (_, k) => ({
    startBeat: k,
    lengthBeats: 0.9,
    pitch: [60, 64, 67, 72][k % 4],
    velocity: 90,
    channel: 0,
  }));
  const found = await known(writeSmf({ notes, lengthBeats: 8, tempoBpm: 111, meter: '4/4', program: 0 }), 'x.mid');
  expect(found).toMatchObject({ kind: 'loop', tempoBpm: expect.closeTo(111, 2), bars: 2, key: { tonic: 0, mode: 'major' } });
});

test.each<[string, () => Uint8Array]>([
  ['silence', () => wav([new Float32Array(44100)])],
  ['one frame', () => wav([new Float32Array([0.5])])],
  ['DC', () => wav([new Float32Array(44100).fill(0.6)])],
  ['white noise', () => wav([noise(88200)])],
  ['a drone', () => wav([sine(110, 20)])],
  ['8 kHz', () => wav([hits(grooveTimes, 5).filter((_, k) => k % 5 === 0)], 8000)],
  ['192 kHz', () => wav([sine(50, 4)], 192000)],
  ['eight channels', () => wav(Array.from({ length: 8 }, () => sine(220, 1)))],
  ['not a number here and there', () => wav([sine(220, 1).map((value, k) => (k % 1000 === 0 ? NaN : value))])],
])('%s neither throws nor gives what is no number', async (_, bytes) => {
  const found = await known(bytes());
  expect(allFinite(found)).toBe(true);
  for (const confidence of [found.kindConfidence, found.tempoConfidence, found.keyConfidence, found.familyConfidence])
    if (confidence !== null) expect(confidence >= 0 && confidence <= 1).toBe(true);
});

test('silence is called silent, and what cannot be read says why', async () => {
  expect(await known(wav([new Float32Array(44100)]))).toMatchObject({ key: null, pitched: false, tempoBpm: null, loudnessLufs: null });
  await expect(heard(new TextEncoder().encode('not a sound at all'))).rejects.toThrow(/not a sound file/);
  expect(summaryLine({ file: 'a.wav', error: 'The file is empty (0 bytes).' })).toBe('a.wav: The file is empty (0 bytes).');
  expect(summaryLine({ file: 'b.wav', ...(await known(wav([hits([0.001], 0.4)]))) })).toMatch(/^b\.wav: one-shot · unpitched/);
});
