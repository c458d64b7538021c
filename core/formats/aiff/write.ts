import { ByteWriter } from '../bytes';
import { lengthFrames, quantise, type PcmAudio } from '../pcm';

/** AIFF bytes at 16 or 24 bits. Source: Audio Interchange File Format 1.3 (1989). */
export function writeAiff(pcm: PcmAudio, bits: 16 | 24): Uint8Array {
  const frames = lengthFrames(pcm);
  const channelCount = pcm.channels.length;
  const sampleBytes = bits / 8;
  const dataBytes = frames * channelCount * sampleBytes;
  const head = new ByteWriter()
    .text('FORM')
    .u32be(4 + 26 + 16 + dataBytes + (dataBytes % 2))
    .text('AIFF')
    .text('COMM')
    .u32be(18)
    .u16be(channelCount)
    .u32be(frames)
    .u16be(bits)
    .append(numberToExtended(pcm.sampleRateHz))
    .text('SSND')
    .u32be(8 + dataBytes)
    .u32be(0)
    .u32be(0)
    .toBytes();
  const bytes = new Uint8Array(head.length + dataBytes + (dataBytes % 2));
  bytes.set(head);
  let at = head.length;
  for (let frame = 0; frame < frames; frame++)
    for (const plane of pcm.channels) {
      const value = quantise(plane[frame], bits);
      for (let byte = sampleBytes - 1; byte >= 0; byte--) bytes[at++] = (value >> (byte * 8)) & 0xff;
    }
  return bytes;
}

function numberToExtended(value: number): Uint8Array {
  const exponent = Math.floor(Math.log2(value));
  const mantissa = value / 2 ** exponent;
  const high = Math.floor(mantissa * 2 ** 31);
  return new ByteWriter()
    .u16be(exponent + 16383)
    .u32be(high)
    .u32be(Math.round((mantissa * 2 ** 31 - high) * 2 ** 32))
    .toBytes();
}
