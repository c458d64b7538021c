import { chunkId, latin1, uint32le } from '../bytes';
import { FormatError } from '../errors';
import { parseVorbisComments } from '../flac/streaminfo';

export interface OggVorbisHeader {
  readonly sampleRateHz: number;
  readonly channelCount: number;
  /** Frames according to the last page's granule position. */
  readonly totalFrames: number;
  /** The last page is marked as the end of the stream. */
  readonly complete: boolean;
  readonly comments: Readonly<Record<string, string>>;
}

const pageHeaderBytes = 27;

/** What an Ogg Vorbis file says about itself (RFC 3533; Vorbis I, section 4.2). @throws {FormatError} foreign, unsupported */
export function parseOggVorbis(bytes: Uint8Array): OggVorbisHeader {
  if (chunkId(bytes, 0) !== 'OggS') throw new FormatError('foreign', 'This is not an Ogg file, although its name says so.');
  const first = pageHeaderBytes + bytes[26];
  if (bytes[first] !== 1 || latin1(bytes, first + 1, 6) !== 'vorbis')
    throw new FormatError('unsupported', 'Ogg files are read when they hold Vorbis sound; this one holds something else.');
  const comments = findComments(bytes);
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
  return { sampleRateHz: uint32le(bytes, first + 12), channelCount: bytes[first + 11], totalFrames, complete, comments };
}

function findComments(bytes: Uint8Array): Record<string, string> {
  const limit = Math.min(bytes.length, 65536);
  for (let at = 0; at + 7 < limit; at++) {
    if (bytes[at] === 3 && latin1(bytes, at + 1, 6) === 'vorbis') return parseVorbisComments(bytes, at + 7, limit);
  }
  return {};
}
