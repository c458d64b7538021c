/** CRC tables of the two checks of a FLAC frame: CRC-8 over its header, CRC-16 over all of it (RFC 9639, 9.1.8 and 9.3). */
const crc8Table = Uint8Array.from({ length: 256 }, (_, byte) => remainder(byte, 0x07, 8)),
  crc16Table = Uint16Array.from({ length: 256 }, (_, byte) => remainder(byte << 8, 0x8005, 16));

function remainder(start: number, polynomial: number, bits: number): number {
  const top = 1 << (bits - 1),
    mask = 2 ** bits - 1;
  let value = start;
  for (let bit = 0; bit < 8; bit++) value = (value & top ? (value << 1) ^ polynomial : value << 1) & mask;
  return value;
}

/** Bytes of the coded frame number by its first byte (RFC 9639, 9.1.5); 0 when it is none. */
function codedNumberBytes(first: number): number {
  if (first < 0x80) return 1;
  for (let length = 2; length <= 7; length++) if (first >> (7 - length) === (0xff >> (7 - length)) - 1) return length;
  return 0;
}

/** Whether a frame header with a right check begins here (RFC 9639, 9.1). By chance one in some millions of places looks like one. */
export function isFlacFrameHeader(bytes: Uint8Array, at: number): boolean {
  if (bytes[at] !== 0xff || (bytes[at + 1] & 0xfe) !== 0xf8) return false;
  const blockCode = bytes[at + 2] >> 4,
    rateCode = bytes[at + 2] & 15,
    numberBytes = codedNumberBytes(bytes[at + 4]);
  if (blockCode === 0 || rateCode === 15 || numberBytes === 0) return false;
  const blockBytes = blockCode === 6 ? 1 : blockCode === 7 ? 2 : 0,
    rateBytes = rateCode === 12 ? 1 : rateCode === 13 || rateCode === 14 ? 2 : 0,
    end = at + 4 + numberBytes + blockBytes + rateBytes;
  if (end >= bytes.length) return false;
  let crc = 0;
  for (let i = at; i < end; i++) crc = crc8Table[crc ^ bytes[i]];
  return crc === bytes[end];
}

/**
 * Whether all frames of a FLAC file are as they were written: each begins with a header and is followed by its own check and the next one.
 * Decoders pass over frames that are damaged, and may still come to the number of frames that is promised.
 * @param from byte behind the metadata
 * @returns true also for a file without frames; what lies behind the last frame must be a tag or nothing but zeros
 */
export function flacFramesAreWhole(bytes: Uint8Array, from: number): boolean {
  let at = from;
  while (at < bytes.length) {
    if (!isFlacFrameHeader(bytes, at)) return isTail(bytes, at);
    const next = endOfFrame(bytes, at);
    if (next === null) return false;
    at = next;
  }
  return true;
}

/** Where the frame that begins at `from` has its check and the next begins, or the tail of the file; null when it never has. */
function endOfFrame(bytes: Uint8Array, from: number): number | null {
  let crc = 0;
  for (let i = from; i < bytes.length; i++) {
    crc = ((crc << 8) & 0xffff) ^ crc16Table[(crc >> 8) ^ bytes[i]];
    // With its check behind it a frame leaves nothing; that happens by chance too, so that what follows has its say.
    if (crc === 0 && i > from + 6 && (isFlacFrameHeader(bytes, i + 1) || isTail(bytes, i + 1))) return i + 1;
  }
  return null;
}

/** What programs put behind the last frame: nothing, an ID3v1 or APE tag, zeros. */
function isTail(bytes: Uint8Array, at: number): boolean {
  if (at >= bytes.length) return true;
  const mark = String.fromCharCode(...bytes.subarray(at, at + 8));
  if (mark.startsWith('TAG') || mark === 'APETAGEX') return true;
  for (let i = at; i < bytes.length; i++) if (bytes[i] !== 0) return false;
  return true;
}
