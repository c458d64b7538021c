import { createRandom } from '../synth/random';
import { parseAiff } from './aiff/parse';
import { writeAiff } from './aiff/write';
import { FormatError } from './errors';
import { parseFlacHeader } from './flac/streaminfo';
import { parseMp3Header } from './mp3/header';
import { parseOgg } from './ogg/parse';
import { parseSmf } from './smf/parse';
import { writeSmf } from './smf/write';
import { extensionOf, formatsByExtension, sniffFormat } from './sniff';
import { parseWav } from './wav/parse';
import { writeWav } from './wav/write';

/*
 * A broken file among a thousand is one row that says so: whatever the bytes, a parser gives what it could read or a FormatError with a
 * sentence, in little time and memory.
 */
const random = createRandom(20261127),
  whole = (most: number) => Math.floor(random() * most),
  pcm = {
    sampleRateHz: 44100,
    channels: [Float32Array.from({ length: 300 }, (_, i) => Math.sin(i / 9)), new Float32Array(300).fill(0.25)],
  },
  notes = Array.from({ length: 24 }, (_, k) => ({ startBeat: k / 2, lengthBeats: 0.4, pitch: 48 + k, velocity: 90, channel: 0 })),
  text = (letters: string) => [...letters].map((letter) => letter.charCodeAt(0)),
  /** A FLAC head: `fLaC`, one STREAMINFO block of 34 bytes that says 44.1 kHz, stereo, 16 bits, 1,000 frames (RFC 9639, 8.2). */
  flac = Uint8Array.from([
    ...text('fLaC'),
    ...[0x80, 0, 0, 34, 16, 0, 16, 0, 0, 0, 0, 0, 0, 0],
    ...[0x0a, 0xc4, 0x42, 0xf0, 0, 0, 3, 0xe8],
    ...new Array<number>(16).fill(7),
  ]),
  /** Two packets of MPEG-1 layer III, 128 kbit/s, 44.1 kHz. */
  mp3 = (() => {
    const packet = [0xff, 0xfb, 0x90, 0, ...new Array<number>(413).fill(0)];
    return Uint8Array.from([...packet, ...packet, ...packet]);
  })();

const samples: readonly (readonly [name: string, bytes: Uint8Array, parse: (bytes: Uint8Array) => unknown])[] = [
  ['WAV 16', writeWav(pcm, 'int16'), parseWav],
  ['WAV 24', writeWav(pcm, 'int24'), parseWav],
  ['WAV float', writeWav(pcm, 'float32'), parseWav],
  ['AIFF 16', writeAiff(pcm, 16), parseAiff],
  ['AIFF 24', writeAiff(pcm, 24), parseAiff],
  ['MIDI', writeSmf({ notes, lengthBeats: 12, tempoBpm: 97, meter: '3/4', keySignature: { sharps: 2, minor: true } }), parseSmf],
  ['FLAC head', flac, parseFlacHeader],
  ['MP3 head', mp3, parseMp3Header],
];

/** What comes of it: null when it could be read, else the sentence. Anything but a FormatError fails the test. */
function complaint(parse: (bytes: Uint8Array) => unknown, bytes: Uint8Array): string | null {
  try {
    parse(bytes);
    return null;
  } catch (error) {
    if (error instanceof FormatError) return error.message;
    throw error;
  }
}

describe.each(samples)('%s', (_, good, parse) => {
  test('whole, it is read', () => expect(complaint(parse, good)).toBeNull());
  test('cut off anywhere, it is read or says why', () => {
    for (let length = 0; length < good.length; length += Math.max(1, Math.floor(good.length / 400))) {
      const said = complaint(parse, good.slice(0, length));
      if (length < 4) expect(said).not.toBeNull();
      if (said !== null) expect(said).toMatch(/^[A-Z].{12,}\.$/);
    }
  });
  test('with bytes changed, it is read or says why', () => {
    for (let round = 0; round < 600; round++) {
      const bytes = good.slice();
      // Heads are where lengths and counts stand.
      for (let changes = 1 + whole(4); changes > 0; changes--)
        bytes[whole(random() < 0.7 ? Math.min(96, bytes.length) : bytes.length)] = [0, 255, 127, 128, whole(256)][whole(5)];
      const said = complaint(parse, bytes);
      if (said !== null) expect(said).toMatch(/^[A-Z].{12,}\.$/);
    }
  });
  test('with a piece taken out or put in, it is read or says why', () => {
    for (let round = 0; round < 200; round++) {
      const at = whole(good.length),
        count = 1 + whole(40),
        bytes =
          random() < 0.5
            ? Uint8Array.from([...good.slice(0, at), ...good.slice(at + count)])
            : Uint8Array.from([...good.slice(0, at), ...Array.from({ length: count }, () => whole(256)), ...good.slice(at)]);
      const said = complaint(parse, bytes);
      if (said !== null) expect(said).toMatch(/^[A-Z].{12,}\.$/);
    }
  });
});

test('noise is none of ours, whichever parser is asked', () => {
  for (let round = 0; round < 100; round++) {
    const bytes = Uint8Array.from({ length: 64 + whole(400) }, () => whole(256));
    if (sniffFormat(bytes) !== null) continue;
    for (const parse of [parseWav, parseAiff, parseSmf, parseFlacHeader, parseOgg])
      expect(complaint(parse as (bytes: Uint8Array) => unknown, bytes)).not.toBeNull();
  }
});
test('endings are read whatever their case, and only the last one', () => {
  expect(['Kick.WAV', 'a.b.Aif', 'noending', 'dots.', 'x.tar.gz', 'Folder.wav/readme'].map(extensionOf)).toEqual([
    'wav',
    'aif',
    '',
    '',
    'gz',
    '',
  ]);
  expect(Object.keys(formatsByExtension)).toContain(extensionOf('Loop.AIFF'));
});
