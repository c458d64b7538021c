import { hann, PairFft } from './fft';

export interface Spectrogram {
  readonly frameCount: number;
  readonly bins: number;
  readonly hopFrames: number;
  readonly size: number;
  /** `magnitudes[frame × bins + bin]`; a full-scale sine peaks at about 1. */
  readonly magnitudes: Float32Array;
}

/** Magnitudes of Hann-windowed frames centred at `frame × hop`. Nothing before or after the signal but silence. */
export function spectrogram(signal: Float32Array, size: number, hopFrames: number): Spectrogram {
  const frameCount = Math.max(1, Math.ceil(signal.length / hopFrames)),
    bins = size / 2 + 1;
  const magnitudes = new Float32Array(frameCount * bins);
  spectrogramInto(signal, size, hopFrames, (frame, row) => magnitudes.set(row, frame * bins));
  return { frameCount, bins, hopFrames, size, magnitudes };
}

/** The same frame by frame, for those who need no more than one at a time. `row` is used again for the next frame. */
export function spectrogramInto(
  signal: Float32Array,
  size: number,
  hopFrames: number,
  take: (frame: number, row: Float32Array) => void,
): void {
  const fft = new PairFft(size);
  const window = hann(size);
  const frameCount = Math.max(1, Math.ceil(signal.length / hopFrames));
  const { bins } = fft;
  const a = new Float64Array(size),
    b = new Float64Array(size);
  const aRe = new Float64Array(bins),
    aIm = new Float64Array(bins),
    bRe = new Float64Array(bins),
    bIm = new Float64Array(bins);
  const scale = 4 / size,
    row = new Float32Array(bins);
  const load = (frame: number, into: Float64Array) => {
    const start = frame * hopFrames - size / 2;
    if (start >= 0 && start + size <= signal.length) for (let i = 0; i < size; i++) into[i] = signal[start + i] * window[i];
    else
      for (let i = 0; i < size; i++) {
        const at = start + i;
        into[i] = at >= 0 && at < signal.length ? signal[at] * window[i] : 0;
      }
  };
  for (let frame = 0; frame < frameCount; frame += 2) {
    load(frame, a);
    load(frame + 1, b);
    fft.forward(a, b, aRe, aIm, bRe, bIm);
    for (let k = 0; k < bins; k++) row[k] = Math.sqrt(aRe[k] * aRe[k] + aIm[k] * aIm[k]) * scale;
    take(frame, row);
    if (frame + 1 >= frameCount) break;
    for (let k = 0; k < bins; k++) row[k] = Math.sqrt(bRe[k] * bRe[k] + bIm[k] * bIm[k]) * scale;
    take(frame + 1, row);
  }
}

/** All channels averaged into one. */
export function toMono(channels: readonly Float32Array[]): Float32Array {
  if (channels.length === 1) return channels[0];
  const mono = new Float32Array(channels[0]?.length ?? 0);
  for (const plane of channels) for (let i = 0; i < mono.length; i++) mono[i] += plane[i] / channels.length;
  return mono;
}
