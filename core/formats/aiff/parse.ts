import { chunkId, latin1, uint32be } from '../bytes';
import { bytesInMemory, type ByteSource, type SampleLayout } from '../byte-source';
import { FormatError } from '../errors';
import { decodeInterleaved, type PcmAudio, type SampleCoding } from '../pcm';
import { parseId3v2 } from '../tags/id3v2';

export interface AiffFile extends PcmAudio {
  readonly bits: number;
  /** NAME, AUTH, ANNO chunks. */
  readonly info: Readonly<Record<string, string>>;
}

const longestTextBytes = 4096,
  longestTagBytes = 1 << 20;

/** Uncompressed AIFF-C codings: bits override, sample coding, byte order. */
const codings: Readonly<Record<string, { coding: SampleCoding; littleEndian: boolean; bits?: number }>> = {
  NONE: { coding: 'int', littleEndian: false },
  twos: { coding: 'int', littleEndian: false },
  sowt: { coding: 'int', littleEndian: true },
  fl32: { coding: 'float', littleEndian: false, bits: 32 },
  FL32: { coding: 'float', littleEndian: false, bits: 32 },
  fl64: { coding: 'float', littleEndian: false, bits: 64 },
  FL64: { coding: 'float', littleEndian: false, bits: 64 },
};

export interface AiffLayout extends SampleLayout {
  /** Text frames of an `ID3 ` chunk. */
  readonly id3: Readonly<Record<string, string>>;
  readonly info: Readonly<Record<string, string>>;
}

/**
 * What an AIFF or uncompressed AIFF-C file says of itself, without touching its sound. Source: Audio Interchange File Format 1.3 (1989), AIFF-C draft (1991).
 * Sample sizes that are no multiple of 8 are padded to the left, as the format says.
 * @throws {FormatError} foreign, broken, truncated, unsupported or empty
 */
export function aiffLayout(source: ByteSource): AiffLayout {
  const head = source.read(0, 12),
    kind = chunkId(head, 8);
  if (chunkId(head, 0) !== 'FORM' || (kind !== 'AIFF' && kind !== 'AIFC'))
    throw new FormatError('foreign', 'This is not an AIFF file, although its name says so.');
  let common: { channelCount: number; frames: number; bits: number; sampleRateHz: number; coding: string } | null = null;
  let data: { offset: number; length: number } | null = null;
  const info: Record<string, string> = {};
  let id3: Readonly<Record<string, string>> = {};
  for (let at = 12; at + 8 <= source.size;) {
    const chunk = source.read(at, 8),
      id = chunkId(chunk, 0),
      length = uint32be(chunk, 4),
      body = at + 8;
    if (id === 'COMM' && body + 18 <= source.size) {
      const bytes = source.read(body, 22);
      common = {
        channelCount: (bytes[0] << 8) | bytes[1],
        frames: uint32be(bytes, 2),
        bits: (bytes[6] << 8) | bytes[7],
        sampleRateHz: extendedToNumber(bytes, 8),
        coding: kind === 'AIFC' ? chunkId(bytes, 18) : 'NONE',
      };
    } else if (id === 'SSND' && body + 8 <= source.size)
      data = { offset: body + 8 + uint32be(source.read(body, 4), 0), length: length - 8 };
    else if (id === 'ID3 ') id3 = parseId3v2(source.read(body, Math.min(length, longestTagBytes)));
    else if (id === 'NAME' || id === 'AUTH' || id === 'ANNO')
      info[id] = latin1(source.read(body, Math.min(length, longestTextBytes)), 0, longestTextBytes)
        .replace(/\0.*$/s, '')
        .trim();
    at = body + length + (length % 2);
  }
  if (!common) throw new FormatError('broken', 'The AIFF header is missing or damaged.');
  if (common.frames === 0) throw new FormatError('empty', 'The AIFF file holds no sound.');
  if (!data) throw new FormatError('truncated', 'The AIFF file ends before its sound begins.');
  const coding = codings[common.coding];
  const bits = coding?.bits ?? Math.ceil(common.bits / 8) * 8;
  if (!coding || ![8, 16, 24, 32, 64].includes(bits))
    throw new FormatError('unsupported', `AIFF-C with the coding “${common.coding}” is not supported; uncompressed sound is.`);
  if (common.channelCount < 1 || common.channelCount > 32) throw new FormatError('broken', 'The AIFF header contradicts itself.');
  const present = Math.floor((source.size - data.offset) / ((common.channelCount * bits) / 8));
  if (present < common.frames)
    throw new FormatError('truncated', `The AIFF file is cut off: ${Math.max(0, present)} of ${common.frames} frames are there.`);
  const { sampleRateHz, channelCount, frames } = common;
  return {
    sampleRateHz,
    channelCount,
    frames,
    bits,
    coding: coding.coding,
    littleEndian: coding.littleEndian,
    offset: data.offset,
    info,
    id3,
  };
}

/** An AIFF file that is in memory as a whole. @throws {FormatError} see `aiffLayout` */
export function parseAiff(bytes: Uint8Array): AiffFile {
  const { sampleRateHz, channelCount, frames, bits, coding, littleEndian, offset, info } = aiffLayout(bytesInMemory(bytes));
  return { sampleRateHz, channels: decodeInterleaved(bytes, offset, frames, channelCount, bits, coding, littleEndian), bits, info };
}

/** 80-bit IEEE 754 extended, positive normal numbers only (sample rates). */
function extendedToNumber(bytes: Uint8Array, at: number): number {
  const exponent = (((bytes[at] & 0x7f) << 8) | bytes[at + 1]) - 16383;
  return (uint32be(bytes, at + 2) * 2 ** -31 + uint32be(bytes, at + 6) * 2 ** -63) * 2 ** exponent;
}
