import { readFileSync } from 'node:fs';
import { writeWav } from '~core/formats/wav/write';
import { createMp3Encoder, createOggEncoder } from 'wasm-media-encoders';
import { FormatError } from '~core/formats/errors';
import { parseMp3Header } from '~core/formats/mp3/header';
import { sine, rateHz, zeroCrossingHz } from '../../../test/generators/signals';
import { encodeFlac } from '../../../demo/encode/flac';
import { decodeFile, toProjectRate } from './decode';

const tone = sine(441, 1);
const code = (bytes: Uint8Array): Promise<string> =>
  decodeFile(bytes).then(
    () => 'no error',
    (error) => (error instanceof FormatError ? error.code : `other: ${error}`),
  );

async function encode(make: typeof createMp3Encoder | typeof createOggEncoder): Promise<Uint8Array> {
  const encoder = await make();
  encoder.configure({ sampleRate: rateHz, channels: 1, vbrQuality: 4 } as never);
  const parts = [encoder.encode([tone]).slice(), encoder.finalize().slice()];
  return Uint8Array.from(Buffer.concat(parts));
}

/** Frame of the best match of the tone's start, by the first sample above a tenth. */
const firstLoud = (samples: Float32Array): number => samples.findIndex((sample) => Math.abs(sample) > 0.05);

/** Puts the packet in front that says how much the encoder added (Info header with LAME extension), as most encoders do. */
function withInfoPacket(mp3: Uint8Array, lengthFrames: number): Uint8Array {
  const { framesPerPacket } = parseMp3Header(mp3),
    head = mp3.slice(0, 4);
  head[2] = (head[2] & 0x0d) | 0x90; // 128 kbit/s, no padding
  const info = new Uint8Array(Math.floor((framesPerPacket * 128 * 125) / rateHz)),
    view = new DataView(info.buffer);
  let packets = 0;
  for (let at = 0; at + 4 < mp3.length;) {
    const kbps = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320][mp3[at + 2] >> 4];
    at += Math.floor((framesPerPacket * kbps * 125) / rateHz) + ((mp3[at + 2] >> 1) & 1);
    packets++;
  }
  const delay = 576,
    padding = packets * framesPerPacket - delay - lengthFrames;
  info.set(head);
  info.set(
    [...'Info'].map((letter) => letter.charCodeAt(0)),
    4 + 17,
  );
  view.setUint32(25, 1);
  view.setUint32(29, packets);
  info.set(
    [...'LAME3.100'].map((letter) => letter.charCodeAt(0)),
    33,
  );
  info.set([delay >> 4, ((delay & 15) << 4) | (padding >> 8), padding & 255], 33 + 21);
  return Uint8Array.from([...info, ...mp3]);
}

test('MP3 with an encoder’s delay and padding has the musician’s length, and begins where it should', async () => {
  const { pcm, format } = await decodeFile(withInfoPacket(await encode(createMp3Encoder), tone.length));
  expect(format).toBe('mp3');
  expect(Math.abs(pcm.channels[0].length - tone.length)).toBeLessThanOrEqual(1);
  expect(Math.abs(firstLoud(pcm.channels[0]) - firstLoud(tone))).toBeLessThan(12);
});
test('MP3 that does not say so: the front is trimmed, the end is unknown', async () => {
  const { pcm } = await decodeFile(await encode(createMp3Encoder));
  expect(Math.abs(firstLoud(pcm.channels[0]) - firstLoud(tone))).toBeLessThan(12);
  expect(pcm.channels[0].length).toBeGreaterThanOrEqual(tone.length);
  expect(pcm.channels[0].length).toBeLessThan(tone.length + 2 * 1152);
});
test('Ogg Vorbis has its exact length', async () => {
  const { pcm } = await decodeFile(await encode(createOggEncoder));
  expect(pcm.channels[0].length).toBe(tone.length);
  expect(zeroCrossingHz(pcm.channels[0])).toBeCloseTo(441, 0);
});
test('Ogg Opus has its exact length at 48 kHz, its pitch, and its tags', async () => {
  // A second of 441 Hz at half scale, made with opus-tools: `opusenc --bitrate 32 --comment BPM=104 --comment INITIALKEY=Dm`.
  const bytes = readFileSync('test/fixtures/tone-441hz.opus'),
    { pcm, tags } = await decodeFile(bytes);
  expect([pcm.sampleRateHz, pcm.channels.length, pcm.channels[0].length]).toEqual([48_000, 1, 48_000]);
  expect(zeroCrossingHz(toProjectRate(pcm).channels[0])).toBeCloseTo(441, 0);
  expect(tags).toMatchObject({ tempoBpm: 104, key: { tonic: 2, mode: 'minor' } });
  expect(await code(bytes.subarray(0, bytes.length - 400))).toBe('truncated');
});
test('six channels are mixed to two for hearing: the centre comes from both sides, the low one from none', async () => {
  const planes = Array.from({ length: 6 }, (_, channel) =>
      Float32Array.from({ length: 2000 }, () => (channel === 2 || channel === 3 ? 0.5 : 0)),
    ),
    { pcm } = await decodeFile(writeWav({ sampleRateHz: rateHz, channels: planes }, 'float32'));
  expect(pcm.channels).toHaveLength(2);
  for (const plane of pcm.channels) expect(plane[1000]).toBeCloseTo(0.5 * Math.SQRT1_2, 6);
});
test('a FLAC file whose last frame the parser used to lose is whole', async () => {
  const length = 4096 * 3 + 174;
  let state = 3;
  const planes = [0, 1].map(() =>
    Int32Array.from({ length }, (_, i) => {
      state = (state * 1103515245 + 12345) & 0x7fffffff;
      return Math.round(3000 * Math.sin(i / 20) + (state % 2000) - 1000);
    }),
  );
  const { pcm } = await decodeFile(await encodeFlac(planes, rateHz, 16));
  expect(pcm.channels[0]).toHaveLength(length);
});

test('FLAC is exact to its bits', async () => {
  const planes = [Int32Array.from(tone, (sample) => Math.round(sample * 32767))];
  const { pcm } = await decodeFile(await encodeFlac(planes, rateHz, 16));
  expect(pcm.channels[0].length).toBe(tone.length);
  pcm.channels[0].forEach((sample, i) => {
    if (Math.abs(sample - planes[0][i] / 32768) > 2 / 32768) throw new Error(`frame ${i}`);
  });
});
test('a FLAC file with damage inside is refused, though all its frames seem to be there', async () => {
  const flac = await encodeFlac([Int32Array.from(tone, (sample) => Math.round(sample * 32767))], rateHz, 16),
    damaged = Uint8Array.from(flac);
  for (let at = 0; at < 40; at++) damaged[Math.floor(flac.length / 2) + at] ^= 0x5a;
  expect(await code(flac)).toBe('no error');
  expect(await code(damaged)).toMatch(/broken|truncated/);
});
test('an MP3 whose header counts no packets was never finished', async () => {
  const good = withInfoPacket(await encode(createMp3Encoder), tone.length);
  expect(await code(good)).toBe('no error');
  for (const packets of [0, 1]) {
    const bytes = Uint8Array.from(good);
    new DataView(bytes.buffer).setUint32(29, packets);
    expect(await code(bytes)).toBe('broken');
  }
});
test('cut-off files are noticed, whatever the decoder makes of them', async () => {
  const flac = await encodeFlac([Int32Array.from(tone, (sample) => Math.round(sample * 32767))], rateHz, 16);
  expect(await code(flac.slice(0, Math.floor(flac.length * 0.6)))).toBe('truncated');
  const ogg = await encode(createOggEncoder);
  expect(await code(ogg.slice(0, Math.floor(ogg.length * 0.6)))).toBe('truncated');
  expect(await code(new Uint8Array(0))).toBe('empty');
  expect(await code(Uint8Array.from({ length: 4000 }, (_, i) => (i * 37) % 199))).toBe('foreign');
});
test('another rate becomes the project’s: length to the nearest frame, pitch kept', () => {
  const { channels, sampleRateHz } = toProjectRate({
    sampleRateHz: 48000,
    channels: [Float32Array.from({ length: 48000 }, (_, i) => 0.5 * Math.sin((2 * Math.PI * 480 * i) / 48000))],
  });
  expect([sampleRateHz, channels[0].length]).toEqual([44100, 44100]);
  expect(zeroCrossingHz(channels[0])).toBeCloseTo(480, 2);
});
