import { createMp3Encoder } from 'wasm-media-encoders';
import { writeAiff } from '../../core/formats/aiff/write';
import { writeWav } from '../../core/formats/wav/write';
import { encodeAudio } from '../../demo/encode/encode';
import { big, letters, tone, u16, u32, type OddFile } from './odd-file';

/*
 * AIFF 1.3 (1989) and AIFF-C (1991); FLAC by RFC 9639; MPEG-1 layer III by ISO 11172-3; Ogg by RFC 3533; ID3v2.3 by its informal standard;
 * names by common practice. Weaknesses by the Common Weakness Enumeration.
 */
const be16 = (value: number): number[] => big(u16(value)),
  be32 = (value: number): number[] => big(u32(value)),
  /** 44,100 and 8,000 as IEEE 754 numbers of 80 bits. */
  rate44100 = [0x40, 0x0e, 0xac, 0x44, 0, 0, 0, 0, 0, 0],
  rate8000 = [0x40, 0x0b, 0xfa, 0, 0, 0, 0, 0, 0, 0],
  chunk = (id: string, body: readonly number[], said = body.length): number[] => [
    ...letters(id),
    ...be32(said),
    ...body,
    ...(body.length % 2 ? [0] : []),
  ],
  common = ({ channels = 1, frames = 4000, bits = 16, rate = rate8000, more = [] as readonly number[] } = {}): number[] =>
    chunk('COMM', [...be16(channels), ...be32(frames), ...be16(bits), ...rate, ...more]),
  ssnd = (body: readonly number[], offset = 0): number[] => chunk('SSND', [...be32(offset), ...be32(0), ...body]),
  form = (chunks: readonly number[], kind = 'AIFF'): Uint8Array =>
    Uint8Array.from([...letters('FORM'), ...be32(chunks.length + 4), ...letters(kind), ...chunks]);

let turns = 0;
/** A quarter of a second at the disc's rate that no other file of the table has. */
const quarterSecond = () => {
  const hz = 1001 + 13 * turns++;
  return {
    sampleRateHz: 44100,
    channels: [Float32Array.from({ length: 11025 }, (_, i) => 0.3 * Math.sin((2 * Math.PI * hz * i) / 44100))],
  };
};
const changed = (bytes: Uint8Array, by: (copy: Uint8Array) => void): Uint8Array => {
  const copy = bytes.slice();
  by(copy);
  return copy;
};
const id3 = (body: readonly number[], said = body.length): number[] => [
  ...letters('ID3'),
  3,
  0,
  0,
  (said >> 21) & 127,
  (said >> 14) & 127,
  (said >> 7) & 127,
  said & 127,
  ...body,
];

async function encodeMp3({ sampleRateHz, channels }: ReturnType<typeof quarterSecond>): Promise<Uint8Array> {
  const encoder = await createMp3Encoder();
  encoder.configure({ sampleRate: sampleRateHz as 44100, channels: 1, bitrate: 128 });
  const first = encoder.encode(channels).slice();
  return Uint8Array.from([...first, ...encoder.finalize()]);
}

/** Sounds of the other formats, and names at odds with what is in them. */
export async function otherFiles(): Promise<OddFile[]> {
  const packed = (format: 'flac' | 'mp3' | 'ogg') =>
      format === 'mp3' ? encodeMp3(quarterSecond()) : encodeAudio(quarterSecond(), format, 'odd', false),
    flac = await packed('flac'),
    mp3 = await packed('mp3'),
    ogg = await packed('ogg'),
    wav = () => writeWav(quarterSecond(), 'int16');
  const done = (path: string, why: string, bytes: Uint8Array): OddFile => ({ path, why, bytes, state: 'done' }),
    fails = (path: string, why: string, says: RegExp, bytes: Uint8Array): OddFile => ({ path, why, bytes, state: 'failed', says }),
    aside = (path: string, why: string, bytes: Uint8Array): OddFile => ({ path, why, bytes, state: 'left-aside' });
  return [
    done('aiff plain.aif', '16 bits', writeAiff(quarterSecond(), 16)),
    done('aiff 24 bits.aiff', '24 bits', writeAiff(quarterSecond(), 24)),
    done('aiff 12 bits.aif', '12 bits, padded to the left (AIFF 1.3)', form([...common({ bits: 12 }), ...ssnd(tone())])),
    done('aiff sound first.aif', 'chunks in any order (AIFF 1.3)', form([...ssnd(tone()), ...common()])),
    done('aiff sowt.aifc', 'little-endian (AIFF-C)', form([...common({ more: [...letters('sowt'), 0, 0] }), ...ssnd(tone())], 'AIFC')),
    done(
      'aiff long name.aif',
      'a name of 60,000 letters',
      form([...chunk('NAME', new Array<number>(60000).fill(65)), ...common(), ...ssnd(tone())]),
    ),
    done(
      'aiff name promises.aif',
      'a name that promises 2 GB behind the sound (CWE-130)',
      form([...common(), ...ssnd(tone()), ...chunk('NAME', [65], 0x7fffffff)]),
    ),
    fails('aiff cut.aif', 'half of the promised frames (CWE-130)', /cut off: \d+ of 4000/, form([...common(), ...ssnd(tone(2000))])),
    fails('aiff no sound.aif', 'no SSND', /before its sound/, form(common())),
    fails('aiff no frames.aif', 'no frames', /holds no sound/, form([...common({ frames: 0 }), ...ssnd([])])),
    fails('aiff no channels.aif', 'no channels (CWE-369)', /contradicts itself/, form([...common({ channels: 0 }), ...ssnd(tone())])),
    fails('aiff no common.aif', 'a sound of which nothing is said', /header is missing/, form(ssnd(tone()))),
    fails(
      'aiff rate zero.aif',
      'no frames a second (CWE-369)',
      /cannot be right/,
      form([...common({ rate: new Array<number>(10).fill(0) }), ...ssnd(tone())]),
    ),
    fails(
      'aiff rate endless.aif',
      'infinitely many frames a second (CWE-1339)',
      /cannot be right/,
      form([...common({ rate: [0x7f, 0xff, 0x80, 0, 0, 0, 0, 0, 0, 0] }), ...ssnd(tone())]),
    ),
    fails(
      'aiff packed.aifc',
      'a packed coding',
      /“ima4” is not supported/,
      form([...common({ more: [...letters('ima4'), 0, 0] }), ...ssnd(tone())], 'AIFC'),
    ),
    fails(
      'aiff offset beyond.aif',
      'a sound that begins behind the end (CWE-125)',
      /cut off/,
      form([...common({ rate: rate44100 }), ...ssnd(tone(), 0x7fffffff)]),
    ),
    done('flac plain.flac', '16 bits', flac),
    done(
      'flac tag before.flac',
      'an ID3 tag before the stream: against RFC 9639, common practice',
      Uint8Array.from([...id3([0, 0, 0, 0]), ...(await packed('flac'))]),
    ),
    fails('flac cut.flac', 'half a file (CWE-130)', /./, (await packed('flac')).slice(0, 400)),
    fails('flac head only.flac', 'the four letters and nothing else (CWE-125)', /header is missing/, Uint8Array.from(letters('fLaC'))),
    fails(
      'flac frame damaged.flac',
      'a bit of a frame turned: its check disagrees (RFC 9639, 9.3)',
      /damaged/,
      changed(await packed('flac'), (copy) => (copy[Math.floor(copy.length * 0.7)] ^= 8)),
    ),
    done('mp3 plain.mp3', 'layer III', mp3),
    done(
      'mp3 tag.mp3',
      'with an ID3v2 tag',
      Uint8Array.from([...id3([...letters('TIT2'), 0, 0, 0, 4, 0, 0, 0, ...letters('Odd')]), ...(await packed('mp3'))]),
    ),
    fails('mp3 tag promises.mp3', 'a tag of 256 MB (CWE-130)', /./, Uint8Array.from([...id3([1, 2, 3], 0x0fffffff), ...mp3])),
    fails('mp3 no frame.mp3', 'a tag and nothing else', /./, Uint8Array.from(id3([0, 0, 0, 0]))),
    done('ogg plain.ogg', 'Vorbis', ogg),
    fails('ogg cut.ogg', 'a file without its last page (RFC 3533)', /cut off/, (await packed('ogg')).slice(0, -600)),
    fails('ogg head only.ogg', 'one page (CWE-125)', /./, ogg.slice(0, 58)),
    fails(
      'ogg of something else.ogg',
      'a page of neither Vorbis nor Opus',
      /something else/,
      changed(ogg, (copy) => copy.set(letters('xorbis'), 29)),
    ),
    // Names at odds with what is in them.
    done('a wav called.mp3', 'what is in it counts, not its ending (CWE-646)', wav()),
    done('an mp3 called.wav', 'what is in it counts, not its ending (CWE-646)', await packed('mp3')),
    done('a flac called.aif', 'what is in it counts, not its ending (CWE-646)', await packed('flac')),
    fails(
      'a picture called.wav',
      'a picture (CWE-434)',
      /something else/,
      Uint8Array.from([0x89, ...letters('PNG\r\n\x1a\n'), ...new Array<number>(200).fill(1)]),
    ),
    fails(
      'a program called.wav',
      'a program (CWE-434)',
      /something else/,
      Uint8Array.from([0x7f, ...letters('ELF'), ...new Array<number>(200).fill(1)]),
    ),
    fails(
      'a page called.mid',
      'a page of markup (CWE-434)',
      /something else|not a MIDI/,
      Uint8Array.from(letters('<!doctype html><script>hi()</script>')),
    ),
    fails(
      'a text called.flac',
      'a text',
      /something else|not a FLAC/,
      Uint8Array.from(letters('See the readme for licence terms, and enjoy.')),
    ),
    aside('a wav called.exe', 'an ending that nobody asked for (CWE-434)', wav()),
    aside('a wav without ending', 'no ending', wav()),
    done('ENDING IN CAPITALS.WAV', 'endings of any case', wav()),
    done('two.endings.wav', 'a name with points', wav()),
    done('Große Trommel – ночь 夜 🥁.wav', 'a name in several scripts (CWE-176)', wav()),
    done(`${'long name '.repeat(19)}.wav`, 'a name of nearly 200 letters', wav()),
    done('‮gnitset‬.wav', 'a name that is written from right to left (CWE-451)', wav()),
    done("'; drop table loops; --.wav", 'a name that would be a statement (CWE-89)', wav()),
    done('<script>hi()<／script>.wav', 'a name that would be markup (CWE-79)', wav()),
    done('%s%n%x $(reboot) `id`.wav', 'a name that would be a command (CWE-78, CWE-134)', wav()),
  ];
}
