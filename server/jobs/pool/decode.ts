import { FLACDecoder } from '@wasm-audio-decoders/flac';
import { OggVorbisDecoder } from '@wasm-audio-decoders/ogg-vorbis';
import { MPEGDecoder } from 'mpg123-decoder';
import { parseAiff } from '~core/formats/aiff/parse';
import { FormatError } from '~core/formats/errors';
import { parseFlacHeader } from '~core/formats/flac/streaminfo';
import { parseMp3Header } from '~core/formats/mp3/header';
import { parseOggVorbis } from '~core/formats/ogg/parse';
import { lengthFrames, type PcmAudio } from '~core/formats/pcm';
import { sniffFormat, type MediaFormat } from '~core/formats/sniff';
import { noTags, tagsFromId3, tagsFromVorbis, tagsFromWav, type EmbeddedTags } from '~core/formats/tags/embedded';
import { parseId3v2 } from '~core/formats/tags/id3v2';
import { parseWav } from '~core/formats/wav/parse';
import { resampleCyclic } from '~core/dsp/resample';
import { projectRateHz } from '~core/units/time';

export interface Decoded {
  readonly pcm: PcmAudio;
  readonly tags: EmbeddedTags;
  readonly format: Exclude<MediaFormat, 'midi'>;
}

/** What a decoder makes of a tagless MP3: 528 + 1 + 576 frames in front (LAME's documentation, from memory; measured 1105). */
export const decoderDelayFrames = 1105;
/** An hour: what is longer is a recording and no loop. */
export const longestSeconds = 60 * 60;

/**
 * Any sound file of ours to planes at the file's rate. The frame count is held against what the container promises.
 * @throws {FormatError} with a sentence for the person
 */
export async function decodeFile(bytes: Uint8Array): Promise<Decoded> {
  if (bytes.length === 0) throw new FormatError('empty', 'The file is empty (0 bytes).');
  const format = sniffFormat(bytes);
  if (format === null || format === 'midi')
    throw new FormatError('foreign', 'This is not a sound file that can be read (its contents are something else).');
  const decoded = await decoders[format](bytes);
  const frames = lengthFrames(decoded.pcm),
    { sampleRateHz } = decoded.pcm;
  if (frames === 0) throw new FormatError('empty', 'No sound could be decoded from the file.');
  if (sampleRateHz < 8000 || sampleRateHz > 192_000)
    throw new FormatError('broken', `The file claims ${sampleRateHz} frames a second, which cannot be right.`);
  if (frames / sampleRateHz > longestSeconds)
    throw new FormatError(
      'too-long',
      `The file lasts ${Math.round(frames / sampleRateHz / 60)} minutes; up to ${longestSeconds / 60} are read.`,
    );
  for (const plane of decoded.pcm.channels) for (let i = 0; i < plane.length; i++) if (!Number.isFinite(plane[i])) plane[i] = 0;
  return { ...decoded, format };
}

/** At the rate at which everything is heard; a loop's length stays exact, since resampling goes round. More than two channels become two. */
export function toProjectRate(pcm: PcmAudio): PcmAudio {
  const channels = pcm.channels.slice(0, 2);
  if (pcm.sampleRateHz === projectRateHz) return { sampleRateHz: projectRateHz, channels };
  const target = Math.max(1, Math.round((lengthFrames(pcm) * projectRateHz) / pcm.sampleRateHz));
  return { sampleRateHz: projectRateHz, channels: channels.map((plane) => resampleCyclic(plane, target)) };
}

function held(got: number, promised: number, what: string): void {
  if (promised > 0 && Math.abs(got - promised) > 1)
    throw new FormatError('truncated', `The ${what} file is damaged or cut off: ${got} of ${promised} frames could be decoded.`);
}

type Decode = (bytes: Uint8Array) => Promise<{ pcm: PcmAudio; tags: EmbeddedTags }>;

const decoders: Readonly<Record<Exclude<MediaFormat, 'midi'>, Decode>> = {
  wav: async (bytes) => {
    const file = parseWav(bytes);
    return { pcm: file, tags: tagsFromWav(file.sampler, file.info) };
  },
  aiff: async (bytes) => {
    const file = parseAiff(bytes);
    return { pcm: file, tags: { ...noTags, title: file.info.NAME ?? null } };
  },
  flac: async (bytes) => {
    const header = parseFlacHeader(bytes);
    let channels: readonly Float32Array[] = [],
      rateHz = header.sampleRateHz;
    // The decoder's parser loses the last frame of some files; which ones depends on what follows it. So a short result is tried again.
    for (const padding of [0, 1, 64, 4096]) {
      const decoder = new FLACDecoder();
      await decoder.ready;
      try {
        const padded = new Uint8Array(bytes.length + padding);
        padded.set(bytes);
        const { channelData, sampleRate } = await decoder.decodeFile(padded);
        if ((channelData[0]?.length ?? 0) > (channels[0]?.length ?? -1)) channels = channelData;
        rateHz = sampleRate || rateHz;
      } finally {
        decoder.free();
      }
      if ((channels[0]?.length ?? 0) >= header.totalFrames) break;
    }
    held(channels[0]?.length ?? 0, header.totalFrames, 'FLAC');
    return { pcm: { sampleRateHz: rateHz, channels: [...channels] }, tags: tagsFromVorbis(header.comments) };
  },
  ogg: async (bytes) => {
    const header = parseOggVorbis(bytes);
    if (!header.complete) throw new FormatError('truncated', 'The Ogg file is cut off before its end.');
    const decoder = new OggVorbisDecoder();
    await decoder.ready;
    try {
      const { channelData } = await decoder.decodeFile(bytes);
      held(channelData[0]?.length ?? 0, header.totalFrames, 'Ogg');
      return { pcm: { sampleRateHz: header.sampleRateHz, channels: channelData }, tags: tagsFromVorbis(header.comments) };
    } finally {
      decoder.free();
    }
  },
  mp3: async (bytes) => {
    const header = parseMp3Header(bytes);
    const decoder = new MPEGDecoder();
    await decoder.ready;
    try {
      const { channelData, sampleRate, errors } = decoder.decode(bytes);
      if (errors.length > 3) throw new FormatError('broken', `The MP3 file is damaged in ${errors.length} places.`);
      if (header.totalFrames !== null) held(channelData[0]?.length ?? 0, header.totalFrames, 'MP3');
      const channels = header.gapless ? channelData : channelData.map((plane) => plane.slice(Math.min(decoderDelayFrames, plane.length)));
      return {
        pcm: { sampleRateHz: sampleRate, channels: header.channelCount === 1 ? channels.slice(0, 1) : channels },
        tags: tagsFromId3(parseId3v2(bytes)),
      };
    } finally {
      decoder.free();
    }
  },
};
