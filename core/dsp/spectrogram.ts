import { hann } from './window';
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

/** Squared magnitudes frame by frame, for those who need no more than one at a time. `power` is used again for the next frame. */
export function powerFrames(
  signal: Float32Array,
  size: number,
  hopFrames: number,
  bins: number,
  take: (frame: number, power: Float32Array) => void,
): void {
  const fft = realFft(size),
    window = hann(size),
    frameCount = Math.max(1, Math.ceil(signal.length / hopFrames)),
    scale = (4 / size) ** 2,
    power = new Float32Array(bins);
  for (let frame = 0; frame < frameCount; frame++) {
    const { time } = fft,
      start = frame * hopFrames - size / 2,
      from = Math.max(0, -start),
      to = Math.min(size, signal.length - start);
    if (from > 0) time.fill(0, 0, from);
    for (let i = from; i < to; i++) time[i] = signal[start + i] * window[i];
    if (to < size) time.fill(0, Math.max(0, to));
    fft.forward();
    const { spectrum } = fft;
    power[0] = spectrum[0] * spectrum[0] * scale;
    if (bins > size / 2) power[size / 2] = spectrum[1] * spectrum[1] * scale;
    for (let k = 1, last = Math.min(bins, size / 2); k < last; k++) {
      const re = spectrum[2 * k],
        im = spectrum[2 * k + 1];
      power[k] = (re * re + im * im) * scale;
    }
    take(frame, power);
  }
}

/** All channels averaged into one. */
export function toMono(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  const mono = new Float32Array(channels[0]?.length ?? 0);
  if (channels.length === 2) {
    const [left, right] = channels;
    for (let i = 0; i < mono.length; i++) mono[i] = (left[i] + right[i]) * 0.5;
    return mono;
  }
  const share = 1 / channels.length;
  for (const plane of channels) for (let i = 0; i < mono.length; i++) mono[i] += plane[i] * share;
  return mono;
}
