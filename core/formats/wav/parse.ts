import { chunkId } from '../bytes';
import { bytesInMemory, type ByteSource, type SampleLayout } from '../byte-source';
import { FormatError } from '../errors';
import { decodeInterleaved, type PcmAudio, type SampleCoding } from '../pcm';
import { chunksOfWords, noWords, readWords, type WavSampler, type WavWords } from './words';

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
  channelMask: number;
}

const pcmTag = 1;
const floatTag = 3;
const extensibleTag = 0xfffe;

export interface WavLayout extends SampleLayout, WavWords {
  /** Of an extensible header; 0 where it names no speakers. */
  readonly channelMask: number;
}

const chunksRead: ReadonlySet<string> = new Set(['ds64', 'fmt ', ...chunksOfWords]);
/** Chunks that are read whole have at most this many bytes; a longer one is none that we know. */
const longestChunkBytes = 1 << 20;

/**
 * What a RIFF WAVE file says of itself, without touching its sound: integer PCM of 8 to 32 bits (what does not fill its bytes lies to the left
 * in them), float of 32 and 64, plain or extensible, also RF64 sizes; sounds that were streamed, whose length nobody went back to fill in; odd
 * chunks whose padding was forgotten. Source: Multimedia Programming Interface and Data Specifications 1.0 (1991); EBU Tech 3306 for RF64.
 * @throws {FormatError} foreign, truncated (less data than the header promises), unsupported or empty
 */
export function wavLayout(source: ByteSource): WavLayout {
  const head = source.read(0, 12),
    form = chunkId(head, 0);
  if ((form !== 'RIFF' && form !== 'RF64') || chunkId(head, 8) !== 'WAVE')
    throw new FormatError('foreign', 'This is not a WAV file, although its name says so.');
  let layout: Layout | null = null;
  let data: { offset: number; length: number } | null = null;
  let longDataBytes: number | null = null;
  const riffBytes = head.length < 8 ? 0 : new DataView(head.buffer, head.byteOffset, 8).getUint32(4, true),
    wasStreamed = form === 'RIFF' && (riffBytes === 0 || riffBytes === 0xffffffff),
    said = noWords();
  for (let at = 12; at + 8 <= source.size;) {
    const chunk = source.read(at, 8),
      id = chunkId(chunk, 0);
    let length = new DataView(chunk.buffer, chunk.byteOffset, 8).getUint32(4, true);
    const body = at + 8;
    if (id === 'data') {
      if (length === 0xffffffff && longDataBytes !== null) length = longDataBytes;
      else if (wasStreamed && (length === 0 || length === 0xffffffff)) length = source.size - body;
      data ??= { offset: body, length };
    } else if (chunksRead.has(id)) {
      const bytes = source.read(body, Math.min(length, longestChunkBytes)),
        view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
      if (id === 'ds64' && bytes.length >= 16) longDataBytes = Number(view.getBigUint64(8, true));
      else if (id === 'fmt ' && bytes.length >= 16) layout = parseLayout(view, 0, bytes.length);
      else readWords(id, bytes, view, length, said);
    }
    at = nextChunk(source, body + length);
  }
  if (!layout) throw new FormatError('broken', 'The WAV header is missing or damaged.');
  if (!data) throw new FormatError('truncated', 'The WAV file ends before its sound begins.');
  return { ...samplesAt(source.size, layout, data), ...said, channelMask: layout.channelMask };
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
    channelMask: outerTag === extensibleTag && length >= 40 ? view.getUint32(at + 20, true) : 0,
  };
}

/** Where the next chunk begins: odd chunks are padded, but not by every program. */
function nextChunk(source: ByteSource, end: number): number {
  if (end % 2 === 0) return end;
  const isName = (at: number) => /^[A-Za-z0-9 ]{4}$/.test(chunkId(source.read(at, 4), 0));
  return !isName(end + 1) && isName(end) ? end : end + 1;
}

function samplesAt(sourceBytes: number, layout: Layout, data: { offset: number; length: number }): SampleLayout {
  const { tag, channelCount, sampleRateHz, bits, blockBytes } = layout;
  // 12 bits lie in two bytes, at their upper end.
  const heldBits = Math.ceil(bits / 8) * 8,
    known = (tag === pcmTag && bits >= 8 && bits <= 32) || (tag === floatTag && [32, 64].includes(bits));
  if (!known) throw new FormatError('unsupported', `WAV with coding ${tag} at ${bits} bits is not supported; integer and float PCM are.`);
  if (channelCount < 1 || channelCount > 32 || blockBytes !== (channelCount * heldBits) / 8)
    throw new FormatError('broken', 'The WAV header contradicts itself.');
  if (data.length === 0) throw new FormatError('empty', 'The WAV file holds no sound.');
  const promised = Math.floor(data.length / blockBytes);
  const present = Math.floor((sourceBytes - data.offset) / blockBytes);
  if (present < promised) throw new FormatError('truncated', `The WAV file is cut off: ${present} of ${promised} frames are there.`);
  const coding: SampleCoding = tag === floatTag ? 'float' : heldBits === 8 ? 'uint8' : 'int';
  return { sampleRateHz, channelCount, bits: heldBits, coding, littleEndian: true, offset: data.offset, frames: promised };
}
