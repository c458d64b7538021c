import { chunkId, latin1, uint32be } from '../bytes';
import { FormatError } from '../errors';

export interface Mp3Header {
  readonly sampleRateHz: number;
  readonly channelCount: number;
  readonly framesPerPacket: number;
  /** Packets of sound by the Xing/Info header, or null without one. */
  readonly packetCount: number | null;
  /** Frames the encoder put in front and behind, by the LAME tag; null when it does not say. */
  readonly gapless: { readonly delayFrames: number; readonly paddingFrames: number } | null;
  /** The musician's length, when header and tag tell it. */
  readonly totalFrames: number | null;
}

const ratesHz = [44100, 48000, 32000];
const kbpsV1 = [0, 32, 40, 48, 56, 64, 80, 96, 112, 128, 160, 192, 224, 256, 320];
const kbpsV2 = [0, 8, 16, 24, 32, 40, 48, 56, 64, 80, 96, 112, 128, 144, 160];

/** Bytes of an ID3v2 tag at the start, 0 without one (id3.org, ID3v2.4 structure, section 3.1). */
export function id3Length(bytes: Uint8Array): number {
  if (latin1(bytes, 0, 3) !== 'ID3') return 0;
  return 10 + (((bytes[6] & 0x7f) << 21) | ((bytes[7] & 0x7f) << 14) | ((bytes[8] & 0x7f) << 7) | (bytes[9] & 0x7f));
}

interface Packet {
  sampleRateHz: number;
  channelCount: number;
  framesPerPacket: number;
  bytes: number;
  sideBytes: number;
}

/** MPEG layer III packet header (ISO/IEC 11172-3, 2.4.2.3; 13818-3 for the half rates), or null. */
function parsePacket(bytes: Uint8Array, at: number): Packet | null {
  if (bytes[at] !== 0xff || (bytes[at + 1] & 0xe0) !== 0xe0) return null;
  const version = (bytes[at + 1] >> 3) & 3;
  const layer = (bytes[at + 1] >> 1) & 3;
  const bitrate = bytes[at + 2] >> 4;
  const rate = (bytes[at + 2] >> 2) & 3;
  if (version === 1 || layer !== 1 || bitrate === 0 || bitrate === 15 || rate === 3) return null;
  const full = version === 3;
  const sampleRateHz = ratesHz[rate] / (full ? 1 : version === 2 ? 2 : 4);
  const mono = bytes[at + 3] >> 6 === 3;
  const framesPerPacket = full ? 1152 : 576;
  const kbps = (full ? kbpsV1 : kbpsV2)[bitrate];
  const padding = (bytes[at + 2] >> 1) & 1;
  return {
    sampleRateHz,
    channelCount: mono ? 1 : 2,
    framesPerPacket,
    bytes: Math.floor((framesPerPacket * kbps * 125) / sampleRateHz) + padding,
    sideBytes: full ? (mono ? 17 : 32) : mono ? 9 : 17,
  };
}

/** @throws {FormatError} foreign when no packet is found in the first 64 kB behind the tag; broken when the header leaves no sound */
export function parseMp3Header(bytes: Uint8Array): Mp3Header {
  const from = id3Length(bytes);
  for (let at = from; at + 4 < Math.min(bytes.length, from + 65536); at++) {
    const packet = parsePacket(bytes, at);
    if (!packet) continue;
    const next = at + packet.bytes;
    if (next + 4 < bytes.length && !parsePacket(bytes, next)) continue; // a chance pattern, not a packet
    const { packetCount, gapless } = parseInfoPacket(bytes, at + 4 + packet.sideBytes);
    const totalFrames =
      packetCount !== null && gapless ? packetCount * packet.framesPerPacket - gapless.delayFrames - gapless.paddingFrames : null;
    // An encoder writes the count when it has ended: one that leaves nothing is of a file that was never finished.
    if (totalFrames !== null && totalFrames <= 0)
      throw new FormatError(
        'broken',
        `The MP3 file is damaged or was never finished: by its header it holds ${packetCount} packets, which leaves no sound.`,
      );
    return {
      sampleRateHz: packet.sampleRateHz,
      channelCount: packet.channelCount,
      framesPerPacket: packet.framesPerPacket,
      packetCount,
      gapless,
      totalFrames,
    };
  }
  throw new FormatError('foreign', 'This is not an MP3 file, although its name says so.');
}

/** The Xing/Info header and the LAME extension behind it (common practice of encoders; from memory). */
function parseInfoPacket(bytes: Uint8Array, at: number): Pick<Mp3Header, 'packetCount' | 'gapless'> {
  const id = chunkId(bytes, at);
  if (id !== 'Xing' && id !== 'Info') return { packetCount: null, gapless: null };
  const flags = uint32be(bytes, at + 4);
  let position = at + 8;
  let packetCount: number | null = null;
  if (flags & 1) {
    packetCount = uint32be(bytes, position);
    position += 4;
  }
  if (flags & 2) position += 4;
  if (flags & 4) position += 100;
  if (flags & 8) position += 4;
  const encoder = latin1(bytes, position, 4);
  if (!/^[A-Za-z]{4}/.test(encoder)) return { packetCount, gapless: null };
  const [a, b, c] = bytes.subarray(position + 21, position + 24);
  const delayFrames = (a << 4) | (b >> 4);
  const paddingFrames = ((b & 15) << 8) | c;
  return { packetCount, gapless: delayFrames + paddingFrames > 0 ? { delayFrames, paddingFrames } : null };
}
