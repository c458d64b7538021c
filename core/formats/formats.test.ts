import { createRandom } from '../synth/random';
import { parseAiff } from './aiff/parse';
import { writeAiff } from './aiff/write';
import { ByteWriter, utf16, utf8 } from './bytes';
import { FormatError } from './errors';
import { parseFlacHeader } from './flac/streaminfo';
import { parseMp3Header } from './mp3/header';
import { formatsByExtension, extensionOf, sniffFormat } from './sniff';
import { parseSmf } from './smf/parse';
import { writeSmf } from './smf/write';
import { tagsFromId3, tagsFromVorbis, tagsFromWav } from './tags/embedded';
import { parseId3v2 } from './tags/id3v2';
import { bytesInMemory } from './byte-source';
import { parseWav, wavLayout } from './wav/parse';
import { writeWav, type WavCoding } from './wav/write';

const random = createRandom(7);
const noise = (frames: number) => Float32Array.from({ length: frames }, () => random() * 1.6 - 0.8);
const pcm = { sampleRateHz: 48000, channels: [noise(1001), noise(1001)] };
const code = (run: () => unknown): string => {
  try {
    run();
    return 'no error';
  } catch (error) {
    return error instanceof FormatError ? error.code : `other: ${error}`;
  }
};

describe('WAV (Multimedia Programming Interface 1.0, 1991)', () => {
  test.each<[WavCoding, number]>([
    ['uint8', 1 / 128],
    ['int16', 2 ** -15],
    ['int24', 2 ** -23],
    ['int32', 2 ** -24],
    ['float32', 0],
    ['float64', 0],
  ])('%s comes back within one step', (coding, step) => {
    const back = parseWav(writeWav(pcm, coding));
    expect(back.sampleRateHz).toBe(48000);
    const farthest = back.channels.map((plane, channel) =>
      plane.reduce((most, sample, frame) => Math.max(most, Math.abs(sample - pcm.channels[channel][frame])), 0),
    );
    expect(Math.max(...farthest)).toBeLessThanOrEqual(step);
  });
  test('16 bit is exact a second time', () => {
    const once = parseWav(writeWav(pcm, 'int16'));
    expect(parseWav(writeWav(once, 'int16')).channels).toEqual(once.channels);
  });
  test('sampler loop and info texts', () => {
    const said = wavLayout(
      bytesInMemory(
        writeWav(pcm, 'int16', { info: { INAM: 'Night', IGNR: 'Dub' }, sampler: { unityNote: 60, startFrame: 0, endFrame: 999 } }),
      ),
    );
    expect(tagsFromWav(said)).toMatchObject({ title: 'Night', genre: 'Dub', loopFrames: { startFrame: 0, endFrame: 999 } });
  });
  test('extensible header reads like the plain one', () => {
    const plain = writeWav(pcm, 'int24');
    const data = plain.slice(44);
    const head = new ByteWriter()
      .text('RIFF')
      .u32le(60 + data.length)
      .text('WAVE')
      .text('fmt ')
      .u32le(40)
      .u16le(0xfffe)
      .u16le(2)
      .u32le(48000)
      .u32le(48000 * 6)
      .u16le(6)
      .u16le(24)
      .u16le(22)
      .u16le(24)
      .u32le(3)
      .u16le(1)
      .append(new Uint8Array(14))
      .text('data')
      .u32le(1001 * 6)
      .append(data)
      .toBytes();
    expect(parseWav(head).channels).toEqual(parseWav(plain).channels);
  });
  test('bad files say why', () => {
    const good = writeWav(pcm, 'int16');
    expect(code(() => parseWav(good.slice(0, 2000)))).toBe('truncated');
    expect(code(() => parseWav(good.slice(0, 40)))).toBe('truncated');
    expect(code(() => parseWav(new Uint8Array(0)))).toBe('foreign');
    expect(code(() => parseWav(Uint8Array.from(good, (byte, i) => (i === 20 ? 85 : byte))))).toBe('unsupported');
    expect(code(() => parseWav(writeWav({ sampleRateHz: 44100, channels: [new Float32Array(0)] }, 'int16')))).toBe('empty');
  });
});

describe('AIFF (1.3, 1989)', () => {
  test.each([16, 24] as const)('%d bits come back', (bits) => {
    const back = parseAiff(writeAiff(pcm, bits));
    expect(back.sampleRateHz).toBe(48000);
    expect(back.channels).toEqual(parseWav(writeWav(pcm, bits === 16 ? 'int16' : 'int24')).channels);
  });
  test('AIFF-C little-endian (sowt)', () => {
    const plain = writeAiff(pcm, 16);
    const comm = plain.slice(20, 38);
    const data = plain.slice(54);
    for (let i = 0; i < data.length; i += 2) [data[i], data[i + 1]] = [data[i + 1], data[i]];
    const file = new ByteWriter()
      .text('FORM')
      .u32be(0)
      .text('AIFC')
      .text('COMM')
      .u32be(24)
      .append(comm)
      .text('sowt')
      .push(0, 0)
      .text('SSND')
      .u32be(8 + data.length)
      .u32be(0)
      .u32be(0)
      .append(data)
      .toBytes();
    expect(parseAiff(file).channels).toEqual(parseAiff(plain).channels);
  });
  test('cut off and compressed', () => {
    const good = writeAiff(pcm, 16);
    expect(code(() => parseAiff(good.slice(0, 3000)))).toBe('truncated');
    expect(code(() => parseAiff(writeWav(pcm, 'int16')))).toBe('foreign');
  });
});

describe('Standard MIDI File (RP-001)', () => {
  const notes = [
    { startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 100, channel: 0 },
    { startBeat: 1.5, lengthBeats: 0.5, pitch: 64, velocity: 80, channel: 0 },
  ];
  test.each([20, 60, 93.5, 110, 121, 127.25, 133, 174.5, 240])(
    'a tempo of %d comes back as it was, although a file holds whole microseconds',
    (tempoBpm) => {
      const notes = [{ startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 90, channel: 0 }];
      expect(parseSmf(writeSmf({ notes, lengthBeats: 4, tempoBpm })).tempoBpm).toBe(tempoBpm);
    },
  );
  test('a tempo that no short number stands for is told as the file has it', () => {
    const notes = [{ startBeat: 0, lengthBeats: 1, pitch: 60, velocity: 90, channel: 0 }];
    expect(parseSmf(writeSmf({ notes, lengthBeats: 4, tempoBpm: 7.00004 })).tempoBpm).toBe(60_000_000 / 8_571_380);
  });
  test('notes, tempo, meter and key come back', () => {
    const midi = parseSmf(
      writeSmf({
        notes,
        lengthBeats: 4,
        tempoBpm: 93.5,
        meter: '6/8',
        keySignature: { sharps: -3, minor: true },
        program: 32,
        name: 'Bass',
      }),
    );
    expect(midi.notes).toEqual(notes);
    expect(midi.tempoBpm).toBeCloseTo(93.5, 3);
    expect(midi).toMatchObject({
      meter: '6/8',
      keySignature: { sharps: -3, minor: true },
      lengthBeats: 4,
      programs: { 0: 32 },
      trackNames: ['Bass'],
      format: 0,
    });
  });
  // The example of the standard's appendix: four channels, format 0, 96 ticks, tempo 120, three quarter-note pitches (from memory).
  test('running status and note-on with velocity 0 end notes', () => {
    const track = [
      0, 0xff, 0x58, 4, 4, 2, 24, 8, 0, 0xff, 0x51, 3, 7, 0xa1, 0x20, 0, 0xc0, 5, 0, 0xc1, 46, 0, 0xc2, 70, 0, 0x92, 48, 96, 0, 60, 96, 96,
      0x91, 67, 64, 96, 0x90, 76, 32, 0x81, 0x40, 0x82, 48, 64, 0, 60, 64, 0, 0x81, 67, 64, 0, 0x80, 76, 64, 0, 0xff, 0x2f, 0,
    ];
    const midi = parseSmf(
      new ByteWriter()
        .text('MThd')
        .u32be(6)
        .u16be(0)
        .u16be(1)
        .u16be(96)
        .text('MTrk')
        .u32be(track.length)
        .push(...track)
        .toBytes(),
    );
    expect(midi.tempoBpm).toBe(120);
    expect(midi.notes.map((note) => [note.pitch, note.startBeat, note.lengthBeats])).toEqual([
      [48, 0, 4],
      [60, 0, 4],
      [67, 1, 3],
      [76, 2, 2],
    ]);
  });
  test('bad files say why', () => {
    const good = writeSmf({ notes, lengthBeats: 4 });
    expect(code(() => parseSmf(good.slice(0, good.length - 6)))).toBe('truncated');
    expect(code(() => parseSmf(writeSmf({ notes: [], lengthBeats: 4 })))).toBe('empty');
    expect(code(() => parseSmf(Uint8Array.from([1, 2, 3])))).toBe('foreign');
    expect(code(() => parseSmf(Uint8Array.from(good, (byte, i) => (i === 12 ? 0xe7 : byte))))).toBe('unsupported');
  });
});

describe('tags', () => {
  const frame = (id: string, body: number[]) =>
    new ByteWriter()
      .text(id)
      .u32be(body.length)
      .push(0, 0, ...body)
      .toBytes();
  test('ID3v2.3 tempo, key and title in three encodings', () => {
    const frames = [
      frame(
        'TBPM',
        [0, ...'124'].map((x) => (typeof x === 'string' ? x.charCodeAt(0) : x)),
      ),
      frame('TKEY', [1, 0xff, 0xfe, 0x46, 0, 0x23, 0, 0x6d, 0]),
      frame('TIT2', [3, 0xc3, 0xa9]),
    ];
    const length = frames.reduce((sum, each) => sum + each.length, 0);
    const tag = new ByteWriter().text('ID3').push(3, 0, 0, 0, 0, length >> 7, length & 127);
    frames.forEach((each) => tag.append(each));
    tag.append(new Uint8Array(4));
    expect(tagsFromId3(parseId3v2(tag.toBytes()))).toMatchObject({ tempoBpm: 124, key: { tonic: 6, mode: 'minor' }, title: 'é' });
  });
  test('nonsense tempos are left alone', () =>
    expect([
      tagsFromVorbis({ BPM: '0' }).tempoBpm,
      tagsFromVorbis({ BPM: 'fast' }).tempoBpm,
      tagsFromVorbis({ BPM: '96,5', KEY: 'Fm' }),
    ]).toMatchObject([null, null, { tempoBpm: 96.5, key: { tonic: 5, mode: 'minor' } }]));
  test('texts', () => {
    expect(utf8(Uint8Array.from([0xe2, 0x99, 0xaf, 0xff]))).toBe('♯\ufffd');
    expect(utf16(Uint8Array.from([0xfe, 0xff, 0x26, 0x6f]), 0, 4)).toBe('♯');
  });
});

describe('sniffing', () => {
  test('every ending has a format that sniffs', () => {
    const samples = {
      wav: writeWav(pcm, 'int16'),
      aiff: writeAiff(pcm, 16),
      midi: writeSmf({ notes: [], lengthBeats: 1 }),
      flac: new ByteWriter().text('fLaC').toBytes(),
      ogg: new ByteWriter().text('OggS').toBytes(),
      mp3: Uint8Array.from([0xff, 0xfb, 0x90, 0]),
    };
    for (const [ending, format] of Object.entries(formatsByExtension)) {
      expect(sniffFormat(samples[format])).toBe(format);
      expect(extensionOf(`a b/X.${ending.toUpperCase()}`)).toBe(ending);
    }
  });
  test('foreign bytes', () => {
    expect(sniffFormat(new Uint8Array(20))).toBeNull();
    expect(extensionOf('README')).toBe('');
  });
  test('headers of FLAC and MP3 refuse foreign bytes', () => {
    expect(code(() => parseFlacHeader(new Uint8Array(100)))).toBe('foreign');
    expect(code(() => parseMp3Header(noiseBytes(5000)))).toBe('foreign');
  });
});

function noiseBytes(length: number): Uint8Array {
  return Uint8Array.from({ length }, () => Math.floor(random() * 200));
}
