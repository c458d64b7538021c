import { chunkId, uint32be, uint32le, utf8 } from '../bytes';
import { FormatError } from '../errors';

export interface FlacHeader {
  readonly sampleRateHz: number;
  readonly channelCount: number;
  readonly bits: number;
  /** 0 when the encoder did not know. */
  readonly totalFrames: number;
  readonly comments: Readonly<Record<string, string>>;
  /** Byte behind the metadata, where the first frame begins. */
  readonly framesFrom: number;
}

/** STREAMINFO and the Vorbis comments of a FLAC file (RFC 9639, sections 8.2 and 8.6). @throws {FormatError} foreign or broken */
export function parseFlacHeader(bytes: Uint8Array): FlacHeader {
  const start = chunkId(bytes, 0).startsWith('ID3')
    ? 10 + (((bytes[6] & 0x7f) << 21) | ((bytes[7] & 0x7f) << 14) | ((bytes[8] & 0x7f) << 7) | (bytes[9] & 0x7f))
    : 0;
  if (chunkId(bytes, start) !== 'fLaC') throw new FormatError('foreign', 'This is not a FLAC file, although its name says so.');
  let header: Omit<FlacHeader, 'comments' | 'framesFrom'> | null = null;
  let comments: Record<string, string> = {};
  let framesFrom = bytes.length;
  for (let at = start + 4; at + 4 <= bytes.length;) {
    const type = bytes[at] & 0x7f;
    const length = (bytes[at + 1] << 16) | (bytes[at + 2] << 8) | bytes[at + 3];
    const body = at + 4;
    if (type === 0 && body + 34 <= bytes.length) {
      // Bit layout: 20 sample rate, 3 channels − 1, 5 bits − 1, 36 total frames
      const word = uint32be(bytes, body + 10);
      header = {
        sampleRateHz: word >>> 12,
        channelCount: ((word >>> 9) & 7) + 1,
        bits: ((word >>> 4) & 31) + 1,
        totalFrames: (word & 15) * 2 ** 32 + uint32be(bytes, body + 14),
      };
    } else if (type === 4) comments = parseVorbisComments(bytes, body, Math.min(bytes.length, body + length));
    const last = (bytes[at] & 0x80) !== 0;
    at = body + length;
    if (last) {
      framesFrom = Math.min(at, bytes.length);
      break;
    }
  }
  if (!header) throw new FormatError('broken', 'The FLAC header is missing or damaged.');
  return { ...header, comments, framesFrom };
}

/** Vorbis comments as FLAC and Ogg hold them (Vorbis I, section 5), keys in capitals. Cut-off lists give what is there. */
export function parseVorbisComments(bytes: Uint8Array, from: number, end: number): Record<string, string> {
  const comments: Record<string, string> = {};
  let at = from + 4 + uint32le(bytes, from);
  if (at + 4 > end) return comments;
  const count = uint32le(bytes, at);
  at += 4;
  for (let index = 0; index < count && at + 4 <= end; index++) {
    const length = uint32le(bytes, at);
    const [key, ...value] = utf8(bytes, at + 4, Math.min(length, end - at - 4)).split('=');
    if (value.length) comments[key.toUpperCase()] = value.join('=');
    at += 4 + length;
  }
  return comments;
}
