/** Decoded sound: `channels[channel][frame]`, −1 … 1. */
export interface PcmAudio {
  readonly sampleRateHz: number;
  readonly channels: readonly Float32Array[];
}

/** Frames of a sound; 0 for one without channels. */
export const lengthFrames = (pcm: PcmAudio): number => pcm.channels[0]?.length ?? 0;

export type SampleCoding = 'int' | 'uint8' | 'float';

/**
 * Interleaved samples to planes. Integers are divided by 2^(bits−1) on both sides of zero, so that a round trip is exact.
 * `bytes` must hold `frames × channelCount × bits/8` bytes from `offset`.
 */
export function decodeInterleaved(
  bytes: Uint8Array,
  offset: number,
  frames: number,
  channelCount: number,
  bits: number,
  coding: SampleCoding,
  littleEndian: boolean,
): Float32Array[] {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const sampleBytes = bits / 8;
  const scale = 1 / 2 ** (bits - 1);
  const channels = Array.from({ length: channelCount }, () => new Float32Array(frames));
  const read = sampleReader(view, bits, coding, littleEndian, scale);
  for (let channel = 0; channel < channelCount; channel++) {
    const plane = channels[channel];
    let position = offset + channel * sampleBytes;
    const stride = channelCount * sampleBytes;
    for (let frame = 0; frame < frames; frame++, position += stride) plane[frame] = read(position);
  }
  return channels;
}

function sampleReader(
  view: DataView,
  bits: number,
  coding: SampleCoding,
  littleEndian: boolean,
  scale: number,
): (position: number) => number {
  if (coding === 'float') return bits === 64 ? (p) => view.getFloat64(p, littleEndian) : (p) => view.getFloat32(p, littleEndian);
  if (coding === 'uint8') return (p) => (view.getUint8(p) - 128) * scale;
  if (bits === 8) return (p) => view.getInt8(p) * scale;
  if (bits === 16) return (p) => view.getInt16(p, littleEndian) * scale;
  if (bits === 32) return (p) => view.getInt32(p, littleEndian) * scale;
  return littleEndian
    ? (p) => ((view.getInt8(p + 2) << 16) | (view.getUint8(p + 1) << 8) | view.getUint8(p)) * scale
    : (p) => ((view.getInt8(p) << 16) | (view.getUint8(p + 1) << 8) | view.getUint8(p + 2)) * scale;
}

/** One sample rounded to an integer of `bits`, clipped to its range. */
export function quantise(sample: number, bits: number): number {
  const full = 2 ** (bits - 1);
  return Math.max(-full, Math.min(full - 1, Math.round(sample * full)));
}
