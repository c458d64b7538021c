import { KernelNumbers, kernels } from './kernels/kernels';
import { meanOf } from './kernels/planes';
import { hann } from './window';
import { keptByKey } from '../kept/kept';
import { realFft } from './real-fft';

export interface Spectrogram {
  readonly frameCount: number;
  readonly bins: number;
  readonly hopFrames: number;
  readonly size: number;
  /** `magnitudes[frame × bins + bin]`; a full-scale sine peaks at about 1. */
  readonly magnitudes: Float32Array;
}

/** Magnitudes of Hann-windowed frames centred at `frame × hop`, of the lowest `bins`. Nothing before or after the signal but silence. */
export function spectrogram(signal: Float32Array, size: number, hopFrames: number, bins = size / 2 + 1): Spectrogram {
  const frameCount = Math.max(1, Math.ceil(signal.length / hopFrames));
  const magnitudes = new Float32Array(frameCount * bins);
  powerFrames(signal, size, hopFrames, bins, (frame, power) => {
    const at = frame * bins;
    for (let k = 0; k < bins; k++) magnitudes[at + k] = Math.sqrt(power[k]);
  });
  return { frameCount, bins, hopFrames, size, magnitudes };
}

/** A window of a size, and what a frame goes through, in the memory of the kernels. */
const roomOf = keptByKey((size: number) => ({
  window: KernelNumbers.of(hann(size)),
  time: new KernelNumbers(size),
  spectrum: new KernelNumbers(size),
  power: new KernelNumbers(size / 2 + 1),
}));

/**
 * Squared magnitudes frame by frame, for those who need no more than one at a time: `power` is used again for the next frame, and lies in
 * the memory of the kernels, at `place`.
 */
export function powerFrames(
  signal: Float32Array,
  size: number,
  hopFrames: number,
  bins: number,
  take: (frame: number, power: Float32Array, place: number) => void,
): void {
  const fft = realFft(size),
    room = roomOf(size),
    frameCount = Math.max(1, Math.ceil(signal.length / hopFrames)),
    scale = (4 / size) ** 2,
    { multiply, powers } = kernels();
  for (let frame = 0; frame < frameCount; frame++) {
    const start = frame * hopFrames - size / 2,
      from = Math.max(0, -start),
      to = Math.max(from, Math.min(size, signal.length - start)),
      time = room.time.view;
    if (from > 0) time.fill(0, 0, from);
    time.set(signal.subarray(start + from, start + to), from);
    if (to < size) time.fill(0, to);
    multiply(room.time.at, room.window.at, room.time.at, size);
    fft.time.set(time);
    fft.forward();
    room.spectrum.view.set(fft.spectrum);
    powers(room.spectrum.at, room.power.at, bins, size / 2, scale);
    take(frame, room.power.view, room.power.at);
  }
}

/** All channels averaged into one. */
export function toMono(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  if (channels.length === 2) return meanOf(channels[0], channels[1]);
  const mono = new Float32Array(channels[0]?.length ?? 0),
    share = 1 / channels.length;
  for (const plane of channels) for (let i = 0; i < mono.length; i++) mono[i] += plane[i] * share;
  return mono;
}
