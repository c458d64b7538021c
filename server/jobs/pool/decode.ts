import { resampleCycle } from '~core/dsp/resample';
import { bytesInMemory } from '~core/formats/byte-source';
import { lengthFrames, type PcmAudio } from '~core/formats/pcm';
import { projectRateHz } from '~core/units/time';
import { soundStream, type SoundStream } from './sound-stream';

export interface Decoded extends Pick<SoundStream, 'format' | 'tags'> {
  readonly pcm: PcmAudio;
}

/**
 * Any sound file of ours that is in memory, to planes at the file's rate.
 * @throws {FormatError} with a sentence for the person
 */
export async function decodeFile(bytes: Uint8Array): Promise<Decoded> {
  const stream = soundStream(bytesInMemory(bytes));
  return { pcm: await decodeStream(stream), tags: stream.tags, format: stream.format };
}

/** A stream holds more than fits into memory; it has to be read piece by piece. */
export class TooMuchAtOnce extends Error {}

/** All pieces of a stream as one. @throws {TooMuchAtOnce} beyond `mostFrames` */
export async function decodeStream(stream: SoundStream, mostFrames = Infinity): Promise<PcmAudio> {
  const pieces: (readonly Float32Array[])[] = [];
  let held = 0;
  for await (const planes of stream.pieces()) {
    held += planes[0].length;
    if (held > mostFrames) throw new TooMuchAtOnce();
    pieces.push(planes);
  }
  const frames = pieces.reduce((sum, [plane]) => sum + plane.length, 0);
  const channels = pieces[0].map((_, channel) => {
    const whole = new Float32Array(frames);
    let at = 0;
    for (const planes of pieces) {
      whole.set(planes[channel], at);
      at += planes[channel].length;
    }
    return whole;
  });
  return { sampleRateHz: stream.sampleRateHz, channels };
}

/** At the rate at which everything is heard; a loop's length stays exact, since resampling goes round. */
export function toProjectRate(pcm: PcmAudio): PcmAudio {
  const { channels } = pcm;
  if (pcm.sampleRateHz === projectRateHz) return { sampleRateHz: projectRateHz, channels };
  const target = Math.max(1, Math.round((lengthFrames(pcm) * projectRateHz) / pcm.sampleRateHz));
  return { sampleRateHz: projectRateHz, channels: resampleCycle(channels, target) };
}
