import { chunkId, latin1 } from '../bytes';
import { bytesInMemory, type ByteSource, type SampleLayout } from '../byte-source';
import { FormatError } from '../errors';
import { decodeInterleaved, type PcmAudio, type SampleCoding } from '../pcm';

/** What a `smpl` chunk says (New Multimedia Data Types 1994): the loop points and the pitch of the recording. */
export interface WavSampler {
  readonly unityNote: number;
  readonly loops: readonly { readonly startFrame: number; readonly endFrame: number }[];
}

export interface WavFile extends PcmAudio {
  readonly bits: number;
  readonly coding: SampleCoding;
  readonly sampler: WavSampler | null;
  /** `LIST INFO` texts by chunk id: INAM, ICMT, IGNR … */
  readonly info: Readonly<Record<string, string>>;
  readonly warnings: readonly string[];
}

interface Layout {
  tag: number;
  channelCount: number;
  sampleRateHz: number;
  blockBytes: number;
  bits: number;
}

const pcmTag = 1;
const floatTag = 3;
const extensibleTag = 0xfffe;

export interface WavLayout extends SampleLayout {
  readonly sampler: WavSampler | null;
  readonly info: Readonly<Record<string, string>>;
}

/** Chunks that are read whole have at most this many bytes; a longer one is none that we know. */
const longestChunkBytes = 1 << 20;

/**
 * What a RIFF WAVE file says of itself, without touching its sound: integer PCM of 8, 16, 24 and 32 bits, float of 32 and 64, plain or
 * extensible, also RF64 sizes. Source: Multimedia Programming Interface and Data Specifications 1.0 (1991); EBU Tech 3306 for RF64.
 * @throws {FormatError} foreign, truncated (less data than the header promises), unsupported or empty
 */
export function wavLayout(source: ByteSource): WavLayout {
  const head = source.read(0, 12),
    form = chunkId(head, 0);
  if ((form !== 'RIFF' && form !== 'RF64') || chunkId(head, 8) !== 'WAVE')
    throw new FormatError('foreign', 'This is not a WAV file, although its name says so.');
  let layout: Layout | null = null;
  let data: { offset: number; length: number } | null = null;
  let sampler: WavSampler | null = null;
  let longDataBytes: number | null = null;
  const info: Record<string, string> = {};
  for (let at = 12; at + 8 <= source.size;) {
    const chunk = source.read(at, 8),
      id = chunkId(chunk, 0);
    let length = new DataView(chunk.buffer, chunk.byteOffset, 8).getUint32(4, true);
    const body = at + 8;
    if (id === 'data') {
      if (length === 0xffffffff && longDataBytes !== null) length = longDataBytes;
      data ??= { offset: body, length };
    } else if (['ds64', 'fmt ', 'smpl', 'LIST'].includes(id)) {
      const bytes = source.read(body, Math.min(length, longestChunkBytes)),
        view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      if (id === 'ds64' && bytes.length >= 16) longDataBytes = Number(view.getBigUint64(8, true));
      else if (id === 'fmt ' && bytes.length >= 16) layout = parseLayout(view, 0, bytes.length);
      else if (id === 'smpl' && bytes.length >= length) sampler = parseSampler(view, 0, length);
      else if (id === 'LIST' && chunkId(bytes, 0) === 'INFO') readInfo(bytes, view, 4, bytes.length, info);
    }
    at = body + length + (length % 2);
  }
  if (!layout) throw new FormatError('broken', 'The WAV header is missing or damaged.');
  if (!data) throw new FormatError('truncated', 'The WAV file ends before its sound begins.');
  return { ...samplesAt(source.size, layout, data), sampler, info };
}

/** A WAV file that is in memory as a whole. @throws {FormatError} see `wavLayout` */
export function parseWav(bytes: Uint8Array): WavFile {
  const { sampleRateHz, channelCount, bits, coding, offset, frames, sampler, info } = wavLayout(bytesInMemory(bytes));
  return {
    sampleRateHz,
    channels: decodeInterleaved(bytes, offset, frames, channelCount, bits, coding, true),
    bits,
    coding,
    warnings: [],
    sampler,
    info,
  };
}

function parseLayout(view: DataView, at: number, length: number): Layout {
  const outerTag = view.getUint16(at, true);
  const tag = outerTag === extensibleTag && length >= 40 ? view.getUint16(at + 24, true) : outerTag;
  return {
    tag,
    channelCount: view.getUint16(at + 2, true),
    sampleRateHz: view.getUint32(at + 4, true),
    blockBytes: view.getUint16(at + 12, true),
    bits: view.getUint16(at + 14, true),
  };
}

function samplesAt(sourceBytes: number, layout: Layout, data: { offset: number; length: number }): SampleLayout {
  const { tag, channelCount, sampleRateHz, bits, blockBytes } = layout;
  const known = (tag === pcmTag && [8, 16, 24, 32].includes(bits)) || (tag === floatTag && [32, 64].includes(bits));
  if (!known) throw new FormatError('unsupported', `WAV with coding ${tag} at ${bits} bits is not supported; integer and float PCM are.`);
  if (channelCount < 1 || channelCount > 32 || blockBytes !== (channelCount * bits) / 8)
    throw new FormatError('broken', 'The WAV header contradicts itself.');
  if (data.length === 0) throw new FormatError('empty', 'The WAV file holds no sound.');
  const promised = Math.floor(data.length / blockBytes);
  const present = Math.floor((sourceBytes - data.offset) / blockBytes);
  if (present < promised) throw new FormatError('truncated', `The WAV file is cut off: ${present} of ${promised} frames are there.`);
  const coding: SampleCoding = tag === floatTag ? 'float' : bits === 8 ? 'uint8' : 'int';
  return { sampleRateHz, channelCount, bits, coding, littleEndian: true, offset: data.offset, frames: promised };
}

function parseSampler(view: DataView, at: number, length: number): WavSampler | null {
  if (length < 36) return null;
  const count = view.getUint32(at + 28, true);
  const loops = [];
  for (let index = 0; index < count && 36 + (index + 1) * 24 <= length; index++) {
    const entry = at + 36 + index * 24;
    loops.push({ startFrame: view.getUint32(entry + 8, true), endFrame: view.getUint32(entry + 12, true) });
  }
  return { unityNote: view.getUint32(at + 12, true), loops };
}

function readInfo(bytes: Uint8Array, view: DataView, from: number, end: number, into: Record<string, string>): void {
  for (let at = from; at + 8 <= end;) {
    const length = view.getUint32(at + 4, true);
    into[chunkId(bytes, at)] = latin1(bytes, at + 8, length)
      .replace(/\0.*$/s, '')
      .trim();
    at += 8 + length + (length % 2);
  }
}
