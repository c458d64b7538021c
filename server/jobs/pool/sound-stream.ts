import { closeSync, fstatSync, openSync, readSync } from 'node:fs';
import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { OggOpusDecoder } from 'ogg-opus-decoder';
import { MPEGDecoder } from 'mpg123-decoder';
import { aiffLayout } from '~core/formats/aiff/parse';
import type { ByteSource, SampleLayout } from '~core/formats/byte-source';
import { FormatError } from '~core/formats/errors';
import { flacFramesAreWhole } from '~core/formats/flac/frames';
import { parseFlacHeader } from '~core/formats/flac/streaminfo';
import { parseMp3Header } from '~core/formats/mp3/header';
import { parseOgg } from '~core/formats/ogg/parse';
import { downmix, speakersOf, type Speaker } from '~core/formats/downmix';
import { decodeInterleaved } from '~core/formats/pcm';
import { referenceFlacPieces } from './reference-flac';
import { sniffFormat, type MediaFormat } from '~core/formats/sniff';
import { tagsFromAiff, tagsFromId3, tagsFromVorbis, tagsFromWav, type EmbeddedTags } from '~core/formats/tags/embedded';
import { parseId3v2 } from '~core/formats/tags/id3v2';
import { wavLayout } from '~core/formats/wav/parse';

export type SoundFormat = Exclude<MediaFormat, 'midi'>;
type Pieces = AsyncGenerator<readonly Float32Array[]>;

/** A sound of any of our formats, read piece by piece. */
export interface SoundStream {
  readonly format: SoundFormat;
  readonly sampleRateHz: number;
  readonly channelCount: number;
  readonly tags: EmbeddedTags;
  /** What the container promises; null when it does not say. */
  readonly promisedFrames: number | null;
  /** The shortest that it can last by its header. */
  readonly leastSeconds: number;
  /**
   * Planes of one piece after the other, numbers only, more than two channels mixed to two. The frame count is held against what the container promises.
   * @throws {FormatError} empty, truncated, broken or too long, with a sentence for the person
   */
  pieces(): Pieces;
}

/** What a decoder makes of a tagless MP3: 528 + 1 + 576 frames in front (LAME's documentation, from memory; measured 1105). */
const decoderDelayFrames = 1105;
/** At no layer III rate does a second take more. */
const mostMp3BytesASecond = 40_000;
/** An hour: what is longer is a recording and no loop. */
const longestSeconds = 60 * 60,
  /** An hour in stereo at 192 kHz: what holds more samples takes too long to go through. */
  mostSamples = longestSeconds * 2 * 192_000,
  /** 60 dB over full scale: what is louder is no sound. */
  loudestRatio = 1000;
const pieceFrames = 1 << 16,
  pieceBytes = 1 << 18,
  /** A hostile FLAC packs four million frames into a kilobyte: its pieces are small. */
  densePieceBytes = 1 << 12,
  headBytes = 1 << 16;
const formatNames: Readonly<Record<SoundFormat, string>> = { wav: 'WAV', aiff: 'AIFF', flac: 'FLAC', ogg: 'Ogg', mp3: 'MP3' };

/** A file as a source of bytes, read in place. The caller closes it. */
export function openSource(path: string): ByteSource & { close(): void } {
  const file = openSync(path, 'r'),
    { size } = fstatSync(file);
  return {
    size,
    read: (at, length) => {
      const bytes = Buffer.alloc(Math.max(0, Math.min(length, size - at)));
      return bytes.subarray(0, bytes.length ? readSync(file, bytes, 0, bytes.length, at) : 0);
    },
    close: () => closeSync(file),
  };
}

/** @throws {FormatError} when it is no sound that can be read, with a sentence for the person */
export function soundStream(source: ByteSource): SoundStream {
  if (source.size === 0) throw new FormatError('empty', 'The file is empty (0 bytes).');
  const format = sniffFormat(source.read(0, headBytes));
  if (format === null || format === 'midi')
    throw new FormatError('foreign', 'This is not a sound file that can be read (its contents are something else).');
  const raw = readers[format](source),
    { sampleRateHz, promisedFrames } = raw;
  if (!(sampleRateHz >= 8000 && sampleRateHz <= 192_000))
    throw new FormatError('broken', `The file claims ${sampleRateHz} frames a second, which cannot be right.`);
  const { channelCount } = raw;
  if (promisedFrames !== null && promisedFrames * channelCount > mostSamples)
    throw new FormatError(
      'too-long',
      `The file holds ${channelCount} channels of ${Math.round(promisedFrames / sampleRateHz / 60)} minutes at ${sampleRateHz / 1000} kHz, which is more than can be read.`,
    );
  const leastSeconds = promisedFrames === null ? (format === 'mp3' ? source.size / mostMp3BytesASecond : 0) : promisedFrames / sampleRateHz;
  if (leastSeconds > longestSeconds) throw tooLong(leastSeconds);
  return { ...raw, format, leastSeconds, pieces: () => checked(raw, format) };
}

const tooLong = (seconds: number): FormatError =>
  new FormatError('too-long', `The file lasts ${Math.round(seconds / 60)} minutes or more; up to ${longestSeconds / 60} are read.`);

interface Raw extends Pick<SoundStream, 'sampleRateHz' | 'channelCount' | 'tags' | 'promisedFrames' | 'pieces'> {
  /** What a decoder passes over without a word although the container tells it. @throws {FormatError} */
  readonly verify?: () => void;
  /** Where the channels are heard from; left out: as WAV and FLAC order them. */
  readonly speakers?: readonly Speaker[];
}

async function* checked({ sampleRateHz, channelCount, promisedFrames, pieces, verify, speakers }: Raw, format: SoundFormat): Pieces {
  const heardFrom = speakers ?? speakersOf(channelCount, { order: 'usual' });
  let frames = 0,
    holdsNumbers = false;
  for await (const planes of pieces()) {
    for (const plane of planes)
      for (let i = 0; i < plane.length; i++) {
        if (!Number.isFinite(plane[i])) plane[i] = 0;
        else if (Math.abs(plane[i]) > loudestRatio)
          throw new FormatError('broken', 'The file holds values far beyond full scale, which are no sound.');
        else holdsNumbers = true;
      }
    frames += planes[0].length;
    if (frames / sampleRateHz > longestSeconds) throw tooLong(frames / sampleRateHz);
    // What is longer than it says is not read to its end to find out.
    if (promisedFrames !== null && frames > promisedFrames + pieceFrames) break;
    yield downmix(planes, heardFrom);
  }
  if (promisedFrames !== null && Math.abs(frames - promisedFrames) > 1)
    throw new FormatError(
      'truncated',
      frames > promisedFrames
        ? `The ${formatNames[format]} file is damaged: it holds more than the ${promisedFrames} frames it promises.`
        : `The ${formatNames[format]} file is damaged or cut off: ${frames} of ${promisedFrames} frames could be decoded.`,
    );
  if (frames === 0) throw new FormatError('empty', 'No sound could be decoded from the file.');
  if (!holdsNumbers) throw new FormatError('broken', 'The file holds nothing but values that are no numbers.');
  verify?.();
}

/** WAV and AIFF are read in place; compressed files are small enough to be held, their sound isn't. */
const readers: Readonly<Record<SoundFormat, (source: ByteSource) => Raw>> = {
  wav: (source) => {
    const layout = wavLayout(source);
    return {
      ...plain(source, layout),
      speakers: speakersOf(layout.channelCount, { order: 'usual', mask: layout.channelMask }),
      tags: tagsFromWav(layout),
    };
  },
  aiff: (source) => {
    const layout = aiffLayout(source);
    return { ...plain(source, layout), tags: tagsFromAiff(layout) };
  },
  flac: (source) => {
    const bytes = source.read(0, source.size),
      { sampleRateHz, channelCount, totalFrames, comments, framesFrom } = parseFlacHeader(bytes);
    return {
      sampleRateHz,
      channelCount,
      tags: tagsFromVorbis(comments),
      promisedFrames: totalFrames || null,
      pieces: () => flacPieces(bytes),
      verify: () => {
        if (!flacFramesAreWhole(bytes, framesFrom))
          throw new FormatError('broken', 'The FLAC file is damaged: the check of at least one of its frames does not agree.');
      },
    };
  },
  ogg: (source) => {
    const bytes = source.read(0, source.size),
      { coding, sampleRateHz, channelCount, totalFrames, comments, complete } = parseOgg(bytes);
    if (!complete) throw new FormatError('truncated', 'The Ogg file is cut off before its end.');
    return {
      sampleRateHz,
      channelCount,
      tags: tagsFromVorbis(comments),
      promisedFrames: totalFrames || null,
      speakers: speakersOf(channelCount, { order: 'vorbis' }),
      pieces: () => decoded(bytes, coding === 'opus' ? new OggOpusDecoder() : new OggVorbisDecoder(), 'ogg'),
    };
  },
  mp3: (source) => {
    const bytes = source.read(0, source.size),
      { sampleRateHz, channelCount, totalFrames, gapless } = parseMp3Header(bytes);
    return {
      sampleRateHz,
      channelCount,
      tags: tagsFromId3(parseId3v2(bytes)),
      promisedFrames: totalFrames,
      pieces: () => mp3Pieces(bytes, channelCount, gapless ? 0 : decoderDelayFrames),
    };
  },
};

function plain(source: ByteSource, layout: SampleLayout): Omit<Raw, 'tags'> {
  const { sampleRateHz, channelCount, bits, coding, littleEndian, offset, frames } = layout,
    frameBytes = (channelCount * bits) / 8;
  return {
    sampleRateHz,
    channelCount,
    promisedFrames: frames,
    pieces: async function* () {
      for (let at = 0; at < frames; at += pieceFrames) {
        const count = Math.min(pieceFrames, frames - at),
          bytes = source.read(offset + at * frameBytes, count * frameBytes);
        yield decodeInterleaved(bytes, 0, Math.floor(bytes.length / frameBytes), channelCount, bits, coding, littleEndian);
      }
    },
  };
}

interface Decoder {
  readonly ready: Promise<unknown>;
  decode(bytes: Uint8Array): Promise<{ channelData: Float32Array[] }> | { channelData: Float32Array[] };
  flush(): Promise<{ channelData: Float32Array[] }>;
  free(): void;
}

/** By the quick decoder; frames that leave rate and depth to the header (RFC 9639, 9.1.2, 9.1.4) only the reference decoder reads. */
async function* flacPieces(bytes: Uint8Array): Pieces {
  let frames = 0;
  for await (const planes of decoded(bytes, new FLACDecoder(), 'flac')) {
    frames += planes[0].length;
    yield planes;
  }
  if (frames === 0) yield* referenceFlacPieces(bytes);
}

async function* decoded(bytes: Uint8Array, decoder: Decoder, format: SoundFormat): Pieces {
  await decoder.ready;
  try {
    for (let at = 0; at < bytes.length; at += densePieceBytes) {
      const { channelData } = await decoder.decode(bytes.subarray(at, at + densePieceBytes));
      if (channelData[0]?.length) yield channelData;
    }
    // The FLAC decoder's parser wants to see something behind the last frame, or it loses that of some files.
    const { channelData: almost } = await decoder.decode(new Uint8Array(4096));
    if (almost[0]?.length) yield almost;
    const { channelData } = await decoder.flush();
    if (channelData[0]?.length) yield channelData;
  } catch (error) {
    // The parser of damaged files has faults of its own, which are none of the person's business.
    throw new FormatError('broken', `The ${formatNames[format]} file is damaged: its sound cannot be decoded.`, { cause: error });
  } finally {
    decoder.free();
  }
}

async function* mp3Pieces(bytes: Uint8Array, channelCount: number, skipFrames: number): Pieces {
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
