import { closeSync, openSync, readFileSync, readSync, statSync } from 'node:fs';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { aiffLayout } from '~core/formats/aiff/parse';
import type { ByteSource, SampleLayout } from '~core/formats/byte-source';
import { FormatError } from '~core/formats/errors';
import { parseFlacHeader } from '~core/formats/flac/streaminfo';
import { parseMp3Header } from '~core/formats/mp3/header';
import { parseOggVorbis } from '~core/formats/ogg/parse';
import { decodeInterleaved } from '~core/formats/pcm';
import { sniffFormat, type MediaFormat } from '~core/formats/sniff';
import { noTags, tagsFromId3, tagsFromVorbis, tagsFromWav, type EmbeddedTags } from '~core/formats/tags/embedded';
import { parseId3v2 } from '~core/formats/tags/id3v2';
import { wavLayout } from '~core/formats/wav/parse';
import { decoderDelayFrames } from './decode';

/** A sound file that is read piece by piece, for those too long to be held as a whole. */
export interface SoundStream {
  readonly format: Exclude<MediaFormat, 'midi'>;
  readonly sampleRateHz: number;
  readonly tags: EmbeddedTags;
  /** What the container promises; null when it does not say. */
  readonly promisedFrames: number | null;
  /** Planes of one piece after the other; each time anew from the start. */
  pieces(): AsyncGenerator<readonly Float32Array[]>;
  close(): void;
}

const pieceFrames = 1 << 16,
  pieceBytes = 1 << 18;

/** A file as a source of bytes, read in place. */
function openSource(path: string): ByteSource & { close(): void } {
  const file = openSync(path, 'r'),
    { size } = statSync(path);
  return {
    size,
    read: (at, length) => {
      const bytes = Buffer.alloc(Math.max(0, Math.min(length, size - at)));
      const got = bytes.length ? readSync(file, bytes, 0, bytes.length, at) : 0;
      return new Uint8Array(bytes.buffer, bytes.byteOffset, got);
    },
    close: () => closeSync(file),
  };
}

/** Seconds that a file lasts, or lasts at least, by its header alone; null when that does not tell or cannot be read. */
export function promisedSeconds(path: string): number | null {
  const source = openSource(path);
  try {
    const head = source.read(0, 1 << 16);
    switch (sniffFormat(head)) {
      case 'wav':
      case 'aiff': {
        const { frames, sampleRateHz } = layoutOf(source, head);
        return frames / sampleRateHz;
      }
      case 'flac': {
        const { totalFrames, sampleRateHz } = parseFlacHeader(source.read(0, 1 << 22));
        return totalFrames > 0 ? totalFrames / sampleRateHz : null;
      }
      case 'ogg': {
        const { totalFrames, sampleRateHz } = parseOggVorbis(new Uint8Array(readFileSync(path)));
        return totalFrames / sampleRateHz;
      }
      case 'mp3': {
        const { packetCount, framesPerPacket, sampleRateHz } = parseMp3Header(source.read(0, 1 << 22));
        // At no layer III rate does a second take more than 40 kB: the shortest that an untold file can last.
        return packetCount === null ? source.size / 40_000 : (packetCount * framesPerPacket) / sampleRateHz;
      }
      default:
        return null;
    }
  } catch {
    return null;
  } finally {
    source.close();
  }
}

const layoutOf = (source: ByteSource, head: Uint8Array): SampleLayout =>
  sniffFormat(head) === 'wav' ? wavLayout(source) : aiffLayout(source);

/** @throws {FormatError} with a sentence for the person */
export function openSound(path: string): SoundStream {
  const source = openSource(path);
  try {
    const head = source.read(0, 1 << 16),
      format = sniffFormat(head);
    if (format === null || format === 'midi')
      throw new FormatError('foreign', 'This is not a sound file that can be read (its contents are something else).');
    if (format === 'wav') {
      const layout = wavLayout(source);
      return { ...plainStream(format, source, layout), tags: tagsFromWav(layout.sampler, layout.info) };
    }
    if (format === 'aiff') {
      const layout = aiffLayout(source);
      return { ...plainStream(format, source, layout), tags: { ...noTags, title: layout.info.NAME ?? null } };
    }
    // Compressed files are small enough to be held; their sound isn't.
    const bytes = new Uint8Array(readFileSync(path));
    if (format === 'flac') {
      const header = parseFlacHeader(bytes);
      return {
        format,
        sampleRateHz: header.sampleRateHz,
        tags: tagsFromVorbis(header.comments),
        promisedFrames: header.totalFrames || null,
        pieces: () => decoded(bytes, async () => ready(new FLACDecoder())),
        close: source.close,
      };
    }
    if (format === 'ogg') {
      const header = parseOggVorbis(bytes);
      if (!header.complete) throw new FormatError('truncated', 'The Ogg file is cut off before its end.');
      return {
        format,
        sampleRateHz: header.sampleRateHz,
        tags: tagsFromVorbis(header.comments),
        promisedFrames: header.totalFrames,
        pieces: () => decoded(bytes, async () => ready(new OggVorbisDecoder())),
        close: source.close,
      };
    }
    const header = parseMp3Header(bytes);
    return {
      format,
      sampleRateHz: header.sampleRateHz,
      tags: tagsFromId3(parseId3v2(bytes)),
      promisedFrames: header.totalFrames,
      pieces: () => mp3Pieces(bytes, header.channelCount, header.gapless ? 0 : decoderDelayFrames),
      close: source.close,
    };
  } catch (error) {
    source.close();
    throw error;
  }
}

function plainStream(format: 'wav' | 'aiff', source: ByteSource & { close(): void }, layout: SampleLayout): Omit<SoundStream, 'tags'> {
  const { sampleRateHz, channelCount, bits, coding, littleEndian, offset, frames } = layout,
    frameBytes = (channelCount * bits) / 8;
  return {
    format,
    sampleRateHz,
    promisedFrames: frames,
    pieces: async function* () {
      for (let at = 0; at < frames; at += pieceFrames) {
        const count = Math.min(pieceFrames, frames - at),
          bytes = source.read(offset + at * frameBytes, count * frameBytes);
        yield decodeInterleaved(bytes, 0, count, channelCount, bits, coding, littleEndian);
      }
    },
    close: source.close,
  };
}

interface Decoder {
  decode(bytes: Uint8Array): Promise<{ channelData: Float32Array[] }>;
  flush(): Promise<{ channelData: Float32Array[] }>;
  free(): void;
}

async function ready<D extends { ready: Promise<unknown> }>(decoder: D): Promise<D> {
  await decoder.ready;
  return decoder;
}

async function* decoded(bytes: Uint8Array, open: () => Promise<Decoder>): AsyncGenerator<readonly Float32Array[]> {
  const decoder = await open();
  try {
    for (let at = 0; at < bytes.length; at += pieceBytes) {
      const { channelData } = await decoder.decode(bytes.subarray(at, at + pieceBytes));
      if (channelData[0]?.length) yield channelData;
    }
    // The FLAC decoder's parser wants to see something behind the last frame.
    const { channelData: almost } = await decoder.decode(new Uint8Array(4096));
    if (almost[0]?.length) yield almost;
    const { channelData } = await decoder.flush();
    if (channelData[0]?.length) yield channelData;
  } finally {
    decoder.free();
  }
}

async function* mp3Pieces(bytes: Uint8Array, channelCount: number, skipFrames: number): AsyncGenerator<readonly Float32Array[]> {
  const decoder = new MPEGDecoder();
  await decoder.ready;
  let skip = skipFrames,
    damaged = 0;
  try {
    for (let at = 0; at < bytes.length; at += pieceBytes) {
      const { channelData, errors } = decoder.decode(bytes.subarray(at, at + pieceBytes));
      damaged += errors.length;
      if (damaged > 3) throw new FormatError('broken', `The MP3 file is damaged in ${damaged} places.`);
      const cut = Math.min(skip, channelData[0]?.length ?? 0);
      skip -= cut;
      const planes = (channelCount === 1 ? channelData.slice(0, 1) : channelData).map((plane) => plane.subarray(cut));
      if (planes[0]?.length) yield planes;
    }
  } finally {
    decoder.free();
  }
}
