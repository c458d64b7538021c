import { chunkId, latin1, uint32le, ByteWriter } from '../bytes';

const headBytes = 27,
  mostSegments = 255;

/** CRC of an Ogg page whose own CRC field is zero: polynomial 04c11db7, no reflection (RFC 3533, section 6). */
export function pageCrc(page: Uint8Array): number {
  let crc = 0;
  for (const byte of page) {
    crc ^= byte << 24;
    for (let bit = 0; bit < 8; bit++) crc = crc & 0x80000000 ? (crc << 1) ^ 0x04c11db7 : crc << 1;
  }
  return crc >>> 0;
}

interface Page {
  readonly flags: number;
  readonly serial: number;
  readonly segments: Uint8Array;
  readonly body: Uint8Array;
  readonly whole: Uint8Array;
}

/** Pages of a file in their order; null where it is not made of whole pages. */
function pagesOf(bytes: Uint8Array): Page[] | null {
  const pages: Page[] = [];
  for (let at = 0; at < bytes.length;) {
    if (chunkId(bytes, at) !== 'OggS' || at + headBytes > bytes.length) return null;
    const segments = bytes.subarray(at + headBytes, at + headBytes + bytes[at + 26]),
      bodyAt = at + headBytes + segments.length,
      end = bodyAt + segments.reduce((sum, length) => sum + length, 0);
    if (end > bytes.length) return null;
    pages.push({
      flags: bytes[at + 5],
      serial: uint32le(bytes, at + 14),
      segments,
      body: bytes.subarray(bodyAt, end),
      whole: bytes.subarray(at, end),
    });
    at = end;
  }
  return pages.length > 0 ? pages : null;
}

/**
 * An Ogg file of one stream with another packet of comments: header packets are laid on pages anew, the pages of sound keep their packets byte for
 * byte and are numbered after them (RFC 3533, section 6; Vorbis I, A.2; RFC 7845, section 3).
 * @param comments the packet without its mark in front, which tells Vorbis from Opus
 * @returns null for a file of several streams, of damaged pages, or whose sound begins on a page of headers
 */
export function withComments(bytes: Uint8Array, comments: Uint8Array): Uint8Array | null {
  const pages = pagesOf(bytes);
  if (!pages || pages.some(({ serial }) => serial !== pages[0].serial)) return null;
  const isOpus = latin1(pages[0].body, 0, 8) === 'OpusHead',
    wanted = isOpus ? 2 : 3,
    headers: number[][] = [];
  let open: number[] = [],
    pageCount = 0;
  for (; headers.length < wanted; pageCount++) {
    const page = pages[pageCount] as Page | undefined;
    if (!page) return null;
    let at = 0;
    for (const length of page.segments) {
      open.push(...page.body.subarray(at, at + length));
      at += length;
      if (length < mostSegments) {
        headers.push(open);
        open = [];
      }
    }
  }
  if (headers.length !== wanted || open.length > 0) return null;
  const mark = isOpus ? [...'OpusTags'] : ['\u0003', ...'vorbis'],
    packet = [...mark.map((letter) => letter.charCodeAt(0)), ...comments, ...(isOpus ? [] : [1])],
    out = new ByteWriter();
  let number = 0;
  const put = (flags: number, granule: Uint8Array, segments: Uint8Array, body: Uint8Array): void => {
    const page = new ByteWriter()
      .text('OggS')
      .push(0, flags)
      .append(granule)
      .u32le(pages[0].serial)
      .u32le(number++)
      .u32le(0)
      .push(segments.length)
      .append(segments)
      .append(body)
      .toBytes();
    new DataView(page.buffer).setUint32(22, pageCrc(page), true);
    out.append(page);
  };
  const none = new Uint8Array(8);
  put(2, none, lacing(headers[0].length), Uint8Array.from(headers[0]));
  putPackets([packet, ...headers.slice(2)], (flags, segments, body) => put(flags, none, segments, body));
  for (const { flags, segments, body, whole } of pages.slice(pageCount)) put(flags, whole.subarray(6, 14), segments, body);
  return out.toBytes();
}

/** Lengths of a packet's segments: as many whole ones as go, and a shorter one that ends it. */
function lacing(bytes: number): Uint8Array {
  const whole = Math.floor(bytes / mostSegments);
  return Uint8Array.from([...new Array<number>(whole).fill(mostSegments), bytes % mostSegments]);
}

/** Lays packets on pages, each of which holds 255 segments at most; a page that begins within a packet says so. */
function putPackets(packets: readonly (readonly number[])[], put: (flags: number, segments: Uint8Array, body: Uint8Array) => void): void {
  const segments = packets.flatMap((packet) => [...lacing(packet.length)]),
    body = packets.flat();
  let from = 0,
    isWithin = false;
  for (let at = 0; at < segments.length; at += mostSegments) {
    const some = segments.slice(at, at + mostSegments),
      length = some.reduce((sum, each) => sum + each, 0);
    put(isWithin ? 1 : 0, Uint8Array.from(some), Uint8Array.from(body.slice(from, from + length)));
    from += length;
    isWithin = some.at(-1) === mostSegments;
  }
}
