import { createOggEncoder } from 'wasm-media-encoders';
import { writeAiff } from '../../core/formats/aiff/write';
import { lengthFrames, quantise, type PcmAudio } from '../../core/formats/pcm';
import { writeWav } from '../../core/formats/wav/write';
import { seedFromText } from '../../core/synth/random';
import type { AudioFormat } from '../catalogue';
import { encodeFlac } from './flac';
import { withSerial } from './ogg-serial';

/** Bytes of a rendered sound in a vendor's format; the same bytes for the same sound. */
export async function encodeAudio(pcm: PcmAudio, format: AudioFormat, name: string, sampler: boolean): Promise<Uint8Array> {
  const extras = sampler ? { sampler: { unityNote: 60, startFrame: 0, endFrame: lengthFrames(pcm) - 1 } } : {};
  switch (format) {
    case 'wav16':
      return writeWav(pcm, 'int16', extras);
    case 'wav24':
      return writeWav(pcm, 'int24', extras);
    case 'wav32f':
      return writeWav(pcm, 'float32', extras);
    case 'aiff16':
      return writeAiff(pcm, 16);
    case 'aiff24':
      return writeAiff(pcm, 24);
    case 'flac':
      return encodeFlac(
        pcm.channels.map((plane) => Int32Array.from(plane, (sample) => quantise(sample, 24))),
        pcm.sampleRateHz,
        24,
      );
    case 'ogg':
      return withSerial(await encodeVorbis(pcm), seedFromText(name));
  }
}

async function encodeVorbis(pcm: PcmAudio): Promise<Uint8Array> {
  const encoder = await createOggEncoder();
  encoder.configure({ sampleRate: pcm.sampleRateHz, channels: pcm.channels.length as 1 | 2, vbrQuality: 6 });
  const parts: Uint8Array[] = [];
  for (let at = 0; at < lengthFrames(pcm); at += 65536)
    parts.push(encoder.encode(pcm.channels.map((plane) => plane.subarray(at, at + 65536))).slice());
  parts.push(encoder.finalize().slice());
  return Uint8Array.from(Buffer.concat(parts));
}
