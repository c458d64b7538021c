import { ByteWriter } from '../bytes';
import { lengthFrames, quantise, type PcmAudio } from '../pcm';

export type WavCoding = 'int16' | 'int24' | 'int32' | 'float32' | 'uint8' | 'float64';
const bitsOf: Readonly<Record<WavCoding, number>> = { uint8: 8, int16: 16, int24: 24, int32: 32, float32: 32, float64: 64 };

export interface WavExtras {
  /** `LIST INFO` texts by four-letter id. */
  readonly info?: Readonly<Record<string, string>>;
  readonly sampler?: { readonly unityNote: number; readonly startFrame: number; readonly endFrame: number };
}

/**
 * RIFF WAVE bytes. Integers are rounded and clipped, without dither.
 * @example writeWav(pcm, 'int16').length // => 44 + frames × channels × 2
 */
export function writeWav(pcm: PcmAudio, coding: WavCoding, extras: WavExtras = {}): Uint8Array {
  const bits = bitsOf[coding];
  const channelCount = pcm.channels.length;
  const frames = lengthFrames(pcm);
  const dataBytes = (frames * channelCount * bits) / 8;
  const tail = writeExtras(pcm.sampleRateHz, extras);
  const headBytes = 44;
  const bytes = new Uint8Array(headBytes + dataBytes + (dataBytes % 2) + tail.length);
  const head = new ByteWriter()
    .text('RIFF')
    .u32le(bytes.length - 8)
    .text('WAVE')
    .text('fmt ')
    .u32le(16)
    .u16le(coding.startsWith('float') ? 3 : 1)
    .u16le(channelCount)
    .u32le(pcm.sampleRateHz)
    .u32le((pcm.sampleRateHz * channelCount * bits) / 8)
    .u16le((channelCount * bits) / 8)
    .u16le(bits)
    .text('data')
    .u32le(dataBytes);
  bytes.set(head.toBytes(), 0);
  writeSamples(pcm.channels, new DataView(bytes.buffer, headBytes, dataBytes), coding);
  bytes.set(tail, headBytes + dataBytes + (dataBytes % 2));
  return bytes;
}

function writeSamples(channels: readonly Float32Array[], view: DataView, coding: WavCoding): void {
  const bytesPerSample = bitsOf[coding] / 8;
  const stride = channels.length * bytesPerSample;
  channels.forEach((plane, channel) => {
    for (let frame = 0, at = channel * bytesPerSample; frame < plane.length; frame++, at += stride) {
      const sample = plane[frame];
      if (coding === 'float32') view.setFloat32(at, sample, true);
      else if (coding === 'float64') view.setFloat64(at, sample, true);
      else if (coding === 'int16') view.setInt16(at, quantise(sample, 16), true);
      else if (coding === 'int32') view.setInt32(at, quantise(sample, 32), true);
      else if (coding === 'uint8') view.setUint8(at, quantise(sample, 8) + 128);
      else {
        const value = quantise(sample, 24);
        view.setUint8(at, value & 0xff);
        view.setUint8(at + 1, (value >> 8) & 0xff);
        view.setInt8(at + 2, value >> 16);
      }
    }
  });
}

function writeExtras(sampleRateHz: number, extras: WavExtras): Uint8Array {
  const out = new ByteWriter();
  if (extras.info) {
    const list = new ByteWriter().text('INFO');
    for (const [id, value] of Object.entries(extras.info)) {
      list
        .text(id)
        .u32le(value.length + 1)
        .text(value)
        .push(0);
      if ((value.length + 1) % 2) list.push(0);
    }
    out.text('LIST').u32le(list.length).append(list.toBytes());
  }
  if (extras.sampler) {
    const { unityNote, startFrame, endFrame } = extras.sampler;
    out
      .text('smpl')
      .u32le(60)
      .u32le(0)
      .u32le(0)
      .u32le(Math.round(1e9 / sampleRateHz))
      .u32le(unityNote)
      .u32le(0)
      .u32le(0)
      .u32le(0)
      .u32le(1)
      .u32le(0)
      .u32le(0)
      .u32le(0)
      .u32le(startFrame)
      .u32le(endFrame)
      .u32le(0)
      .u32le(0);
  }
  return out.toBytes();
}
