import { letters, tone, u16, u32, type OddFile } from './odd-file';

/*
 * RIFF WAVE: Multimedia Programming Interface and Data Specifications 1.0 (1991); WAVEFORMATEXTENSIBLE (1999); EBU Tech 3306 (RF64) and 3285
 * (bext); weaknesses by the Common Weakness Enumeration.
 */
interface Format {
  readonly tag?: number;
  readonly channels?: number;
  readonly rateHz?: number;
  readonly bits?: number;
  readonly block?: number;
  readonly more?: readonly number[];
}
const chunk = (id: string, body: readonly number[], said = body.length): number[] => [
    ...letters(id),
    ...u32(said),
    ...body,
    ...(body.length % 2 ? [0] : []),
  ],
  fmt = ({ tag = 1, channels = 1, rateHz = 8000, bits = 16, block = (channels * bits) / 8, more = [] }: Format = {}): number[] =>
    chunk('fmt ', [...u16(tag), ...u16(channels), ...u32(rateHz), ...u32(rateHz * block), ...u16(block), ...u16(bits), ...more]),
  riff = (chunks: readonly number[], { form = 'RIFF', said = chunks.length + 4 } = {}): Uint8Array =>
    Uint8Array.from([...letters(form), ...u32(said), ...letters('WAVE'), ...chunks]),
  data = (body: readonly number[], said = body.length): number[] => chunk('data', body, said),
  /** A plain file with a chunk before its sound. */
  withChunk = (id: string, body: readonly number[], said = body.length): Uint8Array =>
    riff([...fmt(), ...chunk(id, body, said), ...data(tone())]);
const float = (values: readonly number[]): number[] => [...new Uint8Array(Float32Array.from(values).buffer)],
  double = (values: readonly number[]): number[] => [...new Uint8Array(Float64Array.from(values).buffer)],
  ramp = (count: number, at: (i: number) => number): number[] => Array.from({ length: count }, (_, i) => at(i)),
  extensible = (sub: number, mask = 0): number[] => [
    ...u16(22),
    ...u16(16),
    ...u32(mask),
    ...u16(sub),
    ...letters('\0\0\0\0\x10\0\x80\0\0\xaa\0\x38\x9b\x71'),
  ];

const takes = (name: string, why: string, bytes: Uint8Array): OddFile => ({ path: `wav ${name}.wav`, why, bytes, state: 'done' }),
  refuses = (name: string, why: string, says: RegExp, bytes: Uint8Array): OddFile => ({
    path: `wav ${name}.wav`,
    why,
    bytes,
    state: 'failed',
    says,
  });

const cut = riff([...fmt(), ...data(tone())]);

export const wavFiles: readonly OddFile[] = [
  // What the format allows.
  takes(
    '8 bits',
    '8 bits lie above zero (RIFF 1991)',
    riff([...fmt({ bits: 8 }), ...data(ramp(4000, (i) => 128 + Math.round(90 * Math.sin(i / 5))))]),
  ),
  takes('12 bits', '12 bits lie at the upper end of two bytes (RIFF 1991)', riff([...fmt({ bits: 12, block: 2 }), ...data(tone())])),
  takes(
    '24 bits',
    'three bytes a sample (RIFF 1991)',
    riff([
      ...fmt({ bits: 24 }),
      ...data(ramp(4000, (i) => Math.round(2e6 * Math.sin(i / 6))).flatMap((v) => [v & 255, (v >> 8) & 255, (v >> 16) & 255])),
    ]),
  ),
  takes(
    '32 bits',
    'four bytes a sample (RIFF 1991)',
    riff([...fmt({ bits: 32 }), ...data(ramp(4000, (i) => Math.round(5e8 * Math.sin(i / 7))).flatMap((v) => u32(v >>> 0)))]),
  ),
  takes('float', 'IEEE float, tag 3', riff([...fmt({ tag: 3, bits: 32 }), ...data(float(ramp(4000, (i) => 0.4 * Math.sin(i / 8))))])),
  takes('double', 'IEEE float of 64 bits', riff([...fmt({ tag: 3, bits: 64 }), ...data(double(ramp(4000, (i) => 0.4 * Math.sin(i / 9))))])),
  takes(
    'float over full scale',
    'float may go over 1: +6 dB is a level, no damage',
    riff([...fmt({ tag: 3, bits: 32 }), ...data(float(ramp(4000, (i) => 2 * Math.sin(i / 10))))]),
  ),
  takes('extensible', 'WAVEFORMATEXTENSIBLE says its coding inside', riff([...fmt({ tag: 0xfffe, more: extensible(1) }), ...data(tone())])),
  takes(
    'six channels',
    'front, centre, low, rear: mixed by ITU-R BS.775',
    riff([...fmt({ tag: 0xfffe, channels: 6, more: extensible(1, 0x3f) }), ...data(tone(6 * 2000))]),
  ),
  takes('three channels', 'no speakers named', riff([...fmt({ channels: 3 }), ...data(tone(3 * 2000))])),
  takes('rate 8000', 'the lowest rate of telephony', riff([...fmt({ rateHz: 8000 }), ...data(tone())])),
  takes('rate 11025', 'a quarter of the disc’s rate', riff([...fmt({ rateHz: 11025 }), ...data(tone())])),
  takes('rate 96000', 'twice the studio’s rate', riff([...fmt({ rateHz: 96000 }), ...data(tone(48000, 96000))])),
  takes('rate 192000', 'four times the studio’s rate', riff([...fmt({ rateHz: 192000 }), ...data(tone(48000, 192000))])),
  takes(
    'streamed zero',
    'sizes that nobody went back to fill in, as zeros',
    riff([...fmt(), ...letters('data'), ...u32(0), ...tone()], { said: 0 }),
  ),
  takes(
    'streamed full',
    'sizes that nobody went back to fill in, as 0xFFFFFFFF',
    riff([...fmt(), ...letters('data'), ...u32(0xffffffff), ...tone()], { said: 0xffffffff }),
  ),
  takes(
    'rf64',
    'sizes in ds64 (EBU Tech 3306)',
    (() => {
      const body = tone();
      return riff(
        [
          ...chunk('ds64', [...u32(0), ...u32(0), ...u32(body.length), ...u32(0), ...u32(4000), ...u32(0), ...u32(0)]),
          ...fmt(),
          ...data(body, 0xffffffff),
        ],
        { form: 'RF64', said: 0xffffffff },
      );
    })(),
  ),
  takes('data first', 'no order of chunks is asked for but fmt before data; many readers take it', riff([...data(tone()), ...fmt()])),
  takes(
    'junk chunk',
    'unknown chunks are passed over (RIFF 1991)',
    withChunk(
      'JUNK',
      ramp(1001, () => 65),
    ),
  ),
  takes(
    'riff size wrong',
    'the outer size is passed over where the chunks are whole (CWE-130)',
    riff([...fmt(), ...data(tone())], { said: 17 }),
  ),
  takes(
    'bytes behind',
    'what lies behind the last chunk is no chunk',
    Uint8Array.from([...riff([...fmt(), ...data(tone())]), 1, 2, 3, 4, 5]),
  ),
  takes(
    'padding forgotten',
    'an odd chunk without its padding byte: common practice of old writers',
    riff([...fmt(), ...letters('note'), ...u32(3), 1, 2, 3, ...data(tone())]),
  ),
  takes('two data', 'the first is the sound', riff([...fmt(), ...data(tone()), ...data(tone())])),
  takes('fact lies', 'fact counts frames that are not there; it is of packed codings only (CWE-1284)', withChunk('fact', u32(0xffffffff))),
  takes(
    'cue',
    'cue points behind the end',
    withChunk('cue ', [...u32(1), ...u32(1), ...u32(0x7fffffff), ...letters('data'), ...u32(0), ...u32(0), ...u32(0x7fffffff)]),
  ),
  takes('cue promises', 'four thousand million cue points promised, none there (CWE-130)', withChunk('cue ', u32(0xffffffff))),
  takes(
    'smpl promises',
    'sampler loops promised that are not there (CWE-130)',
    withChunk('smpl', [0, 0, 0, 60, 0, 0, 0, 0xffffffff, 0].flatMap(u32)),
  ),
  takes('smpl note 4294967295', 'a root note beyond 127 (CWE-1284)', withChunk('smpl', [0, 0, 0, 0xffffffff, 0, 0, 0, 0, 0].flatMap(u32))),
  takes('inst', 'an inst chunk of seven bytes (RIFF 1991)', withChunk('inst', [60, 0, 0, 0, 127, 1, 127])),
  takes('inst short', 'an inst chunk of one byte (CWE-130)', withChunk('inst', [60])),
  takes('bext short', 'a bext chunk that ends in its description (EBU Tech 3285; CWE-130)', withChunk('bext', letters('Harbour at night'))),
  takes('list without form', 'a LIST of two bytes (CWE-130)', withChunk('LIST', [73, 78])),
  takes(
    'info nul inside',
    'a title with a zero in its middle (CWE-626)',
    withChunk('LIST', [...letters('INFOINAM'), ...u32(6), ...letters('Ab\0cd\0')]),
  ),
  takes(
    'info markup',
    'a title that would be markup (CWE-79)',
    withChunk('LIST', [...letters('INFOINAM'), ...u32(26), ...letters('<img src=x onerror=hi()>\0\0')]),
  ),
  takes('info long', 'a comment of 60,000 letters', withChunk('LIST', [...letters('INFOICMT'), ...u32(60000), ...ramp(60000, () => 65)])),
  takes('id3 broken', 'an id3 chunk that is no tag', withChunk('id3 ', letters('nothing of the kind'))),
  takes('ixml open', 'iXML whose elements never end', withChunk('iXML', letters('<BWFXML><PROJECT>Harbour'))),
  takes(
    'ixml entities',
    'entities that would grow without end (CWE-776)',
    withChunk('iXML', letters('<!DOCTYPE a [<!ENTITY b "ccc"><!ENTITY d "&b;&b;&b;">]><BWFXML><NOTE>&d;</NOTE></BWFXML>')),
  ),
  takes('silence', 'nothing but zeros is a sound, if a quiet one', riff([...fmt(), ...data(ramp(16001, () => 0))])),
  takes('constant', 'one value all through', riff([...fmt(), ...data(ramp(8000, () => 0x20))])),
  takes('one frame', 'one frame', riff([...fmt(), ...data(u16(1234))])),
  takes('hundred frames', 'a hundred frames', riff([...fmt(), ...data(tone(100))])),
  takes('odd byte at the end', 'half a frame behind the last whole one', riff([...fmt(), ...data([...tone(), 7])])),
  // What it does not.
  refuses('empty', 'no byte', /empty/, new Uint8Array(0)),
  refuses('one byte', 'one byte', /contents are something else/, Uint8Array.from([82])),
  refuses(
    'riff only',
    'the form and nothing else (CWE-125)',
    /contents are something else|header is missing/,
    Uint8Array.from(letters('RIFF')),
  ),
  refuses('head only', 'twelve bytes (CWE-125)', /header is missing/, riff([])),
  refuses('cut in fmt', 'the format ends in its middle (CWE-125)', /header is missing|before its sound/, cut.slice(0, 30)),
  refuses('cut before data', 'no sound follows (CWE-125)', /before its sound/, cut.slice(0, 36)),
  refuses('cut in data', 'a tenth of the promised frames (CWE-130)', /cut off: \d+ of 4000/, cut.slice(0, 44 + 800)),
  refuses('no fmt', 'a sound of which nothing is said', /header is missing/, riff(data(tone()))),
  refuses('no data', 'a header alone', /before its sound/, riff(fmt())),
  refuses('data empty', 'no frames', /holds no sound/, riff([...fmt(), ...data([])])),
  refuses(
    'no channels',
    'no channels: a division by nothing (CWE-369)',
    /contradicts itself/,
    riff([...fmt({ channels: 0, block: 2 }), ...data(tone())]),
  ),
  refuses(
    '33 channels',
    'more channels than any mix (CWE-770)',
    /contradicts itself/,
    riff([...fmt({ channels: 33 }), ...data(tone(33 * 100))]),
  ),
  refuses(
    '65535 channels',
    'as many channels as can be said (CWE-770)',
    /contradicts itself/,
    riff([...fmt({ channels: 65535, block: 2 }), ...data(tone())]),
  ),
  refuses('block zero', 'frames of no bytes (CWE-369)', /contradicts itself/, riff([...fmt({ block: 0 }), ...data(tone())])),
  refuses(
    'block wrong',
    'frames of other bytes than channels and bits make',
    /contradicts itself/,
    riff([...fmt({ block: 3 }), ...data(tone())]),
  ),
  refuses('rate zero', 'no frames a second (CWE-369)', /cannot be right/, riff([...fmt({ rateHz: 0 }), ...data(tone())])),
  refuses('rate one', 'one frame a second', /cannot be right|minutes/, riff([...fmt({ rateHz: 1 }), ...data(tone())])),
  refuses(
    'rate huge',
    '4,294,967,295 frames a second (CWE-1284)',
    /cannot be right/,
    riff([...fmt({ rateHz: 0xffffffff }), ...data(tone())]),
  ),
  refuses('bits zero', 'no bits', /not supported|contradicts/, riff([...fmt({ bits: 0, block: 2 }), ...data(tone())])),
  refuses('bits 40', '40 bits', /not supported/, riff([...fmt({ bits: 40 }), ...data(tone())])),
  refuses('float of 16 bits', 'no such float', /not supported/, riff([...fmt({ tag: 3 }), ...data(tone())])),
  refuses('adpcm', 'a packed coding (tag 2)', /not supported/, riff([...fmt({ tag: 2, bits: 4, block: 2 }), ...data(tone())])),
  refuses('a-law', 'telephony (tag 6)', /not supported/, riff([...fmt({ tag: 6, bits: 8 }), ...data(tone())])),
  refuses('mpeg inside', 'MPEG in a WAV (tag 0x55)', /not supported/, riff([...fmt({ tag: 0x55 }), ...data(tone())])),
  refuses(
    'not a number',
    'nothing but values that are no numbers (CWE-1339)',
    /are no numbers/,
    riff([...fmt({ tag: 3, bits: 32 }), ...data(float(ramp(4000, () => NaN)))]),
  ),
  refuses(
    'beyond measure',
    'values of 3 · 10³⁸',
    /far beyond full scale/,
    riff([...fmt({ tag: 3, bits: 32 }), ...data(float(ramp(4000, (i) => (i % 2 ? 3e38 : -3e38))))]),
  ),
  refuses(
    'rf64 promises',
    'ds64 says 2⁶³ bytes (CWE-190)',
    /cut off|header/,
    riff(
      [
        ...chunk('ds64', [...u32(0), ...u32(0), ...u32(0), ...u32(0x80000000), ...u32(0), ...u32(0), ...u32(0)]),
        ...fmt(),
        ...data(tone(), 0xffffffff),
      ],
      { form: 'RF64' },
    ),
  ),
  refuses(
    'chunk promises',
    'a chunk of 4 GB before the sound (CWE-130)',
    /before its sound/,
    riff([...fmt(), ...chunk('JUNK', [1, 2], 0xfffffff0), ...data(tone())]),
  ),
];
