import { chunkId, latin1, uint32le } from '../bytes';
import { FormatError } from '../errors';
import { parseVorbisComments } from '../flac/streaminfo';

export interface OggHeader {
  readonly coding: 'vorbis' | 'opus';
  readonly sampleRateHz: number;
  readonly channelCount: number;
  /** Frames according to the last page's granule position. */
  readonly totalFrames: number;
  /** The last page is marked as the end of the stream. */
  readonly complete: boolean;
  readonly comments: Readonly<Record<string, string>>;
}

const pageHeaderBytes = 27;

/** Opus is decoded at this rate, whatever it was made from (RFC 7845, section 4). */
const opusRateHz = 48_000;

/**
 * What an Ogg file with Vorbis or Opus sound says about itself (RFC 3533; Vorbis I, section 4.2; RFC 7845, section 5).
 * @throws {FormatError} foreign, unsupported
 */
export function parseOgg(bytes: Uint8Array): OggHeader {
  if (chunkId(bytes, 0) !== 'OggS') throw new FormatError('foreign', 'This is not an Ogg file, although its name says so.');
  const first = pageHeaderBytes + bytes[26];
  const isOpus = latin1(bytes, first, 8) === 'OpusHead';
  if (!isOpus && (bytes[first] !== 1 || latin1(bytes, first + 1, 6) !== 'vorbis'))
    throw new FormatError('unsupported', 'Ogg files are read when they hold Vorbis or Opus sound; this one holds something else.');
  const comments = findComments(bytes, isOpus ? 'OpusTags' : '\u0003vorbis');
  let totalFrames = 0;
  let complete = false;
  for (let at = 0; at + pageHeaderBytes <= bytes.length;) {
    if (chunkId(bytes, at) !== 'OggS') break;
    const segments = bytes[at + 26];
    let bodyBytes = 0;
    for (let index = 0; index < segments; index++) bodyBytes += bytes[at + pageHeaderBytes + index];
    const next = at + pageHeaderBytes + segments + bodyBytes;
    const granule = uint32le(bytes, at + 6) + uint32le(bytes, at + 10) * 2 ** 32;
    if (granule < 2 ** 53) totalFrames = granule;
    complete = (bytes[at + 5] & 4) !== 0 && next <= bytes.length;
    at = next;
  }
  if (isOpus) {
    // What the decoder needs to settle in is counted by the pages and is no sound.
    const preSkip = bytes[first + 10] | (bytes[first + 11] << 8);
    return {
      coding: 'opus',
      sampleRateHz: opusRateHz,
      channelCount: bytes[first + 9],
      totalFrames: Math.max(0, totalFrames - preSkip),
      complete,
      comments,
    };
  }
  return { coding: 'vorbis', sampleRateHz: uint32le(bytes, first + 12), channelCount: bytes[first + 11], totalFrames, complete, comments };
}

function findComments(bytes: Uint8Array, mark: string): Record<string, string> {
  const limit = Math.min(bytes.length, 65536);
  for (let at = 0; at + mark.length < limit; at++)
    if (bytes[at] === mark.charCodeAt(0) && latin1(bytes, at, mark.length) === mark)
      return parseVorbisComments(bytes, at + mark.length, limit);
  return {};
}
