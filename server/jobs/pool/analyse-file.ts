import { analyseAudio, analyseParts, type PartialAnalysis } from '~core/analysis/analyse-audio';
import { analyseNotes } from '~core/analysis/analyse-notes';
import type { Analysis, WholeSound } from '~core/analysis/analysis';
import type { Given } from '~core/analysis/listening';
import type { Part } from '~core/analysis/parts';
import { loadTransforms } from '~core/dsp/real-fft';
import type { ByteSource } from '~core/formats/byte-source';
import { lengthFrames, type PcmAudio } from '~core/formats/pcm';
import { sniffFormat, type MediaFormat } from '~core/formats/sniff';
import { parseSmf } from '~core/formats/smf/parse';
import { noTags } from '~core/formats/tags/embedded';
import { decodeStream, TooMuchAtOnce, toProjectRate } from './decode';
import { longFromSeconds, readLongSound } from './long-sound';
import { openSource, soundStream, type SoundStream } from './sound-stream';

export interface HeardFile {
  readonly analysis: Analysis;
  readonly format: MediaFormat;
  /** At the project's rate; 0 for notes. */
  readonly frames: number;
  /** The sound at the project's rate; null for notes, and for a long sound, which lies in `wavPath` if one was given. */
  readonly sound: PcmAudio | null;
}

interface Options {
  /** Whether tags inside the file are believed. */
  readonly withTags: boolean;
  /** Where a sound too long for memory goes as a float WAV at the project's rate; null when nobody wants it. */
  readonly wavPath: string | null;
}

/** @throws {FormatError} with a sentence for the person, when the file cannot be read */
export async function analyseSoundFile(path: string, vendorPath: string, options: Options): Promise<HeardFile> {
  const source = openSource(path);
  try {
    return await hearSource(source, vendorPath, options);
  } finally {
    source.close();
  }
}

/** The same for bytes wherever they are. */
export async function hearSource(source: ByteSource, vendorPath: string, { withTags, wavPath }: Options): Promise<HeardFile> {
  if (sniffFormat(source.read(0, 64)) === 'midi')
    return { analysis: analyseNotes(parseSmf(source.read(0, source.size)), vendorPath), format: 'midi', frames: 0, sound: null };
  await loadTransforms();
  const { format, tags, sound, head, whole, frames } = await read(soundStream(source), wavPath);
  return { analysis: analyseAudio(head, vendorPath, withTags ? tags : noTags, whole), format, frames, sound };
}

/** Parts of a stored file, with the tags in it; of notes all is told, which takes no time. @throws {FormatError} */
export async function hearParts(path: string, vendorPath: string, parts: ReadonlySet<Part>, given: Given): Promise<PartialAnalysis> {
  const source = openSource(path);
  try {
    if (sniffFormat(source.read(0, 64)) === 'midi') {
      const { evidence, measures } = analyseNotes(parseSmf(source.read(0, source.size)), vendorPath);
      return { evidence, measures, detail: measures.detail };
    }
    await loadTransforms();
    const { tags, head, whole } = await read(soundStream(source), null);
    return analyseParts({ pcm: head, path: vendorPath, tags, whole }, parts, given);
  } finally {
    source.close();
  }
}

interface Read extends Pick<SoundStream, 'format' | 'tags'> {
  readonly sound: PcmAudio | null;
  /** What is heard of it. */
  readonly head: PcmAudio;
  readonly whole: WholeSound | null;
  readonly frames: number;
}

/** By itself, so that the bytes of a compressed file are free when this is done. */
async function read(stream: SoundStream, wavPath: string | null): Promise<Read> {
  const { format, tags } = stream;
  // What its header does not say, decoding tells.
  const sound = stream.leastSeconds * stream.sampleRateHz > longFromFrames ? null : await decodeAtOnce(stream);
  if (sound === null) return { format, tags, sound, ...(await readLongSound(stream, wavPath)) };
  return { format, tags, sound, head: sound, whole: null, frames: lengthFrames(sound) };
}

const longFromFrames = longFromSeconds * 48_000;

/** The sound at the project's rate; null when it is too long to be held. */
async function decodeAtOnce(stream: SoundStream): Promise<PcmAudio | null> {
  try {
    return toProjectRate(await decodeStream(stream, longFromFrames));
  } catch (error) {
    if (error instanceof TooMuchAtOnce) return null;
    throw error;
  }
}
