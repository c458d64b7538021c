import { mkdtempSync, readdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { createMp3Encoder, createOggEncoder } from 'wasm-media-encoders';
import { measureLevels } from '~core/analysis/level/levels';
import { overviewPeaks } from '~core/analysis/peaks/peaks';
import { bytesInMemory } from '~core/formats/byte-source';
import { FormatError } from '~core/formats/errors';
import { parseWav } from '~core/formats/wav/parse';
import { writeAiff } from '~core/formats/aiff/write';
import { writeWav } from '~core/formats/wav/write';
import { encodeFlac } from '../../../demo/encode/flac';
import { rateHz } from '../../../test/generators/signals';
import { decodeFile } from './decode';
import { readLongSound } from './long-sound';
import { openSource, soundStream } from './sound-stream';

const dir = mkdtempSync(join(tmpdir(), 'long-')),
  out = join(dir, 'out.wav');
afterAll(() => rmSync(dir, { recursive: true }));
const seconds = 5;
/** Two sides of a swelling tone. */
const sides = [0.5, 0.3].map((gain) =>
  Float32Array.from(
    { length: seconds * rateHz },
    (_, i) => gain * Math.sin(i / 40) * (0.2 + 0.8 * Math.sin((Math.PI * i) / seconds / rateHz)),
  ),
);
const asInt16 = sides.map((side) => Int32Array.from(side, (value) => Math.round(value * 32767)));
const file = (name: string, bytes: Uint8Array): string => {
  const path = join(dir, name);
  writeFileSync(path, bytes);
  return path;
};
const read = (path: string, wav: string | null = out) => readLongSound(soundStream(bytesIn(path)), wav);
const bytesIn = (path: string) => bytesInMemory(new Uint8Array(readFileSync(path)));
const leastSeconds = (path: string) => soundStream(bytesIn(path)).leastSeconds;
async function ogg(): Promise<Uint8Array> {
  const encoder = await createOggEncoder();
  encoder.configure({ sampleRate: rateHz, channels: 2, vbrQuality: 4 });
  const parts = [encoder.encode(sides).slice(), encoder.finalize().slice()];
  return Uint8Array.from(Buffer.concat(parts));
}

test.each<[string, () => Uint8Array | Promise<Uint8Array>, number]>([
  ['plain.wav', () => writeWav({ sampleRateHz: rateHz, channels: sides }, 'float32'), 1e-7],
  ['deep.wav', () => writeWav({ sampleRateHz: rateHz, channels: sides }, 'int24'), 1e-6],
  ['plain.aiff', () => writeAiff({ sampleRateHz: rateHz, channels: sides }, 16), 2e-5],
  ['plain.flac', () => encodeFlac(asInt16, rateHz, 16), 5e-5],
  ['plain.ogg', ogg, 0.03],
])('%s, read piece by piece, is what it was, and its levels and picture are those of the whole', async (name, bytes, tolerance) => {
  const path = file(name, await bytes()),
    { head, whole, frames } = await read(path);
  expect(frames).toBe(sides[0].length);
  expect(leastSeconds(path)).toBeCloseTo(seconds, 6);
  const wav = parseWav(new Uint8Array(readFileSync(out)));
  for (const planes of [wav.channels, head.channels])
    planes.forEach((plane, side) => {
      expect(plane).toHaveLength(frames);
      for (let i = 0; i < frames; i++) if (Math.abs(plane[i] - sides[side][i]) > tolerance) throw new Error(`frame ${i}`);
    });
  const levels = measureLevels(wav.channels, rateHz);
  expect(whole.levels.integratedLufs).toBeCloseTo(levels.integratedLufs as number, 5);
  expect(whole.levels.truePeakDbtp).toBeCloseTo(levels.truePeakDbtp as number, 5);
  expect(whole.lengthSeconds).toBeCloseTo(seconds, 9);
  const exact = overviewPeaks(wav.channels, whole.overview.length);
  whole.overview.forEach((value, column) => expect(Math.abs(value - exact[column])).toBeLessThan(6));
});

test('MP3, piece by piece, is what decoding it at once gives; its length is at least what its bytes need', async () => {
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate: rateHz, channels: 2, bitrate: 192 });
  const bytes = Uint8Array.from(Buffer.concat([encoder.encode(sides).slice(), encoder.finalize().slice()])),
    path = file('plain.mp3', bytes),
    { head, frames } = await read(path),
    { pcm } = await decodeFile(bytes);
  expect(frames).toBe(pcm.channels[0].length);
  head.channels.forEach((plane, side) => {
    for (let i = 0; i < frames; i++) if (Math.abs(plane[i] - pcm.channels[side][i]) > 1e-6) throw new Error(`frame ${i}`);
  });
  const least = leastSeconds(path);
  expect(least).toBeGreaterThan(1);
  expect(least).toBeLessThanOrEqual(frames / rateHz);
});
test('another rate becomes the project’s', async () => {
  const at48 = Float32Array.from({ length: 2 * 48000 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 480 * i) / 48000)),
    { head, frames } = await read(file('48.wav', writeWav({ sampleRateHz: 48000, channels: [at48] }, 'int16')));
  expect(frames).toBe(2 * rateHz);
  for (let i = 1000; i < frames - 1000; i++)
    if (Math.abs(head.channels[0][i] - 0.5 * Math.sin((2 * Math.PI * 480 * i) / rateHz)) > 1e-3) throw new Error(`frame ${i}`);
});

test('a file that is cut off is refused in words, and leaves nothing behind', async () => {
  const whole = await encodeFlac(asInt16, rateHz, 16),
    path = file('cut.flac', whole.slice(0, Math.floor(whole.length * 0.6)));
  const error = await read(path, join(dir, 'half.wav')).catch((reason: unknown) => reason);
  expect(error).toBeInstanceOf(FormatError);
  expect((error as FormatError).code).toBe('truncated');
  expect(readdirSync(dir)).not.toContain('half.wav');
});
test('what is no sound is told so', () => {
  const path = file('letter.wav', new TextEncoder().encode('Dear Ines, the pack is not ready yet.'));
  expect(() => leastSeconds(path)).toThrow(/not a sound file/);
  expect(() => leastSeconds(file('empty.wav', new Uint8Array(0)))).toThrow(/0 bytes/);
});
test.each([2, 7999, 400_000])('a header that claims %i frames a second is refused before anything is made of it', (sampleRateHz) =>
  expect(() => leastSeconds(file('odd.wav', writeWav({ sampleRateHz, channels: [sides[0].subarray(0, 9000)] }, 'int16')))).toThrow(
    /cannot be right/,
  ),
);
test('more than an hour is refused by the header alone', () => {
  const bytes = writeWav({ sampleRateHz: 8000, channels: [new Float32Array(3601 * 8000)] }, 'uint8');
  expect(() => soundStream(bytesInMemory(bytes))).toThrow(/up to 60 are read/);
});
test('a file on disk is read in place as its bytes in memory are', async () => {
  const path = file('place.wav', writeWav({ sampleRateHz: rateHz, channels: sides }, 'int16')),
    source = openSource(path),
    onDisk = await readLongSound(soundStream(source), null);
  source.close();
  expect(onDisk.head.channels).toEqual((await read(path, null)).head.channels);
});
test('broken numbers become silence', async () => {
  const { head } = await read(
    file(
      'nan.wav',
      writeWav({ sampleRateHz: rateHz, channels: [Float32Array.from({ length: 9000 }, (_, i) => (i % 3 ? 0.1 : NaN))] }, 'float32'),
    ),
  );
  expect(head.channels[0].every(Number.isFinite)).toBe(true);
});
