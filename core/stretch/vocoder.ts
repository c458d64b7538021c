import { KernelNumbers, kernels } from '../dsp/kernels/kernels';
import { realFft, type RealFft } from '../dsp/real-fft';
import { hannSingle } from '../dsp/window';
import { keptByKey } from '../units/kept';
import type { TimeMap } from './time-map';
import { unroll, wrapFrame } from './wrap';

/** Changes the magnitudes of one frame before it is turned into sound again; spectra are `[dc, nyquist, re 1, im 1 …]`, one a channel. */
export type SpectrumFilter = (spectra: readonly Float32Array[]) => void;

export interface VocoderSetting {
  /** Long for tones, short for hits; a multiple of 32. */
  readonly size: number;
  /** Frames that overlap in the result. */
  readonly overlap: number;
  readonly filter?: SpectrumFilter;
}

export const tonalSetting: VocoderSetting = { size: 4096, overlap: 4 };

/**
 * Tonal stretch of a cyclic signal by the locked vocoder. What was rendered before position 0 is faded into the end, which makes the seam.
 * Silence gives silence.
 * @param cycle `[channel][frame]`, all channels are moved together
 */
export function stretchTonal(cycle: readonly Float32Array[], map: TimeMap, setting: VocoderSetting = tonalSetting): Float32Array[] {
  const { size, overlap } = setting,
    { sourceFrames, targetFrames } = map,
    frameCount = Math.max(1, Math.round((targetFrames * overlap) / size)),
    place = (frame: number) => Math.round((frame * targetFrames) / frameCount),
    preFrames = Math.min(size, targetFrames),
    vocoder = new LockedVocoder(cycle.length, setting, preFrames + targetFrames + size),
    // Reading never goes farther than a frame's size and a hop over the end of a lap.
    margin = 2 * size,
    sources = cycle.map((plane) => unroll(plane, margin, margin));
  for (let frame = -(overlap + 1) - Math.ceil((preFrames * overlap) / size); frame <= frameCount + overlap; frame++) {
    const at = place(frame);
    vocoder.add(sources, wrapFrame(Math.round(map.toSource(at)), sourceFrames) + margin, at - place(frame - 1), at + preFrames);
  }
  return vocoder.take().map((plane) => closeSeam(plane, preFrames, targetFrames));
}

/**
 * A phase vocoder with identity phase locking (Laroche & Dolson 1999). Each frame is analysed twice, at its place and one synthesis hop
 * before, so that the rotation from frame to frame is a product of unit vectors: no unwrapping. The rotation found at a peak, summed over
 * the channels to keep the stereo image, moves the whole region of that peak. The first frame is as it was.
 */
export class LockedVocoder {
  private readonly fft: RealFft;
  private readonly now: Float32Array[];
  private readonly before: Float32Array[];
  private readonly made: Float32Array[];
  private readonly power: Float32Array;
  private readonly sums: Float32Array[];
  private readonly weights: Float32Array;
  private begun = false;

  constructor(
    channelCount: number,
    private readonly setting: VocoderSetting,
    lengthFrames: number,
  ) {
    const planes = (frames: number) => Array.from({ length: channelCount }, () => new Float32Array(frames)),
      { size } = setting;
    this.fft = realFft(size);
    this.now = planes(size);
    this.before = planes(size);
    this.made = planes(size);
    this.power = new Float32Array(size / 2);
    this.sums = planes(lengthFrames);
    this.weights = new Float32Array(lengthFrames);
  }

  /** Adds the frame around `sourceFrame` of the sources around `targetFrame` of the result, `hop` frames after the one added last. */
  add(sources: readonly Float32Array[], sourceFrame: number, hop: number, targetFrame: number): void {
    const { fft, now, before, made } = this,
      half = this.setting.size / 2;
    for (let channel = 0; channel < now.length; channel++) {
      takeSpectrum(fft, sources[channel], sourceFrame - half, now[channel]);
      if (this.begun) takeSpectrum(fft, sources[channel], sourceFrame - half - hop, before[channel]);
    }
    this.setting.filter?.(now);
    if (this.begun) rotateRegions(now, before, made, this.power);
    else now.forEach((spectrum, channel) => made[channel].set(spectrum));
    this.begun = true;
    for (let channel = 0; channel < now.length; channel++) addFrame(fft, made[channel], this.sums[channel], targetFrame - half);
    addWindowed(roomOf(fft.size).window, fft.size, this.weights, targetFrame - half, 1);
  }

  /** What was added, each frame by the weight of the windows over it. */
  take(): Float32Array[] {
    const { weights } = this;
    for (const sum of this.sums) for (let i = 0; i < sum.length; i++) sum[i] = weights[i] > 1e-6 ? sum[i] / weights[i] : 0;
    return this.sums;
  }
}

/** A window of a size, and a frame and what it is added to, in the memory of the kernels. */
const roomOf = keptByKey((size: number) => ({
  window: KernelNumbers.of(hannSingle(size)),
  frame: new KernelNumbers(size),
  sum: new KernelNumbers(size),
}));

function takeSpectrum(fft: RealFft, source: Float32Array, from: number, into: Float32Array): void {
  const { window, frame } = roomOf(fft.size);
  frame.view.set(source.subarray(from, from + fft.size));
  kernels().multiply(frame.at, window.at, frame.at, fft.size);
  fft.time.set(frame.view);
  fft.forward();
  into.set(fft.spectrum);
}

function addFrame(fft: RealFft, spectrum: Float32Array, sum: Float32Array, start: number): void {
  fft.spectrum.set(spectrum);
  fft.inverse();
  const { frame } = roomOf(fft.size);
  frame.view.set(fft.time);
  addWindowed(frame, fft.size, sum, start, 1 / fft.size);
}

/** Adds a frame by its window to what lies from `start` on; what falls outside is lost. */
function addWindowed(frame: KernelNumbers, size: number, into: Float32Array, start: number, scale: number): void {
  const { window, sum } = roomOf(size),
    from = Math.max(0, -start),
    to = Math.min(size, into.length - start);
  if (to <= from) return;
  const { view } = sum;
  view.set(into.subarray(start + from, start + to), from);
  kernels().overlapAdd(frame.at, window.at, sum.at, size, scale);
  into.set(view.subarray(from, to), start + from);
}

/** made = now, each peak's region turned by unit( Σ made_before · conj(before) ) at the peak. `made` holds the last frame on entry. */
function rotateRegions(
  now: readonly Float32Array[],
  before: readonly Float32Array[],
  made: readonly Float32Array[],
  power: Float32Array,
): void {
  const bins = power.length;
  for (let channel = 0; channel < now.length; channel++) {
    const spectrum = now[channel];
    for (let k = 1, at = 2; k < bins; k++, at += 2) {
      const value = spectrum[at] * spectrum[at] + spectrum[at + 1] * spectrum[at + 1];
      power[k] = channel === 0 ? value : power[k] + value;
    }
    // What never turns: a constant, and the highest bin.
    made[channel][0] = spectrum[0];
    made[channel][1] = spectrum[1];
  }
  power[0] = 0;
  let regionStart = 1,
    peak = nextPeak(power, 2);
  while (regionStart < bins) {
    const following = peak < bins ? nextPeak(power, peak + 1) : bins;
    let valley = bins;
    if (following < bins) {
      valley = peak + 1;
      for (let j = peak + 2; j < following; j++) if (power[j] < power[valley]) valley = j;
    }
    turnRegion(now, before, made, 2 * Math.min(peak, bins - 1), 2 * regionStart, 2 * valley);
    regionStart = valley;
    peak = following;
  }
}

function turnRegion(
  now: readonly Float32Array[],
  before: readonly Float32Array[],
  made: readonly Float32Array[],
  centre: number,
  from: number,
  to: number,
): void {
  let re = 0,
    im = 0;
  for (let channel = 0; channel < now.length; channel++) {
    const y = made[channel],
      x = before[channel];
    re += y[centre] * x[centre] + y[centre + 1] * x[centre + 1];
    im += y[centre + 1] * x[centre] - y[centre] * x[centre + 1];
  }
  const norm = Math.sqrt(re * re + im * im),
    c = norm > 1e-20 ? re / norm : 1,
    s = norm > 1e-20 ? im / norm : 0;
  for (let channel = 0; channel < now.length; channel++) {
    const x = now[channel],
      y = made[channel];
    for (let j = from; j < to; j += 2) {
      const xr = x[j],
        xi = x[j + 1];
      y[j] = xr * c - xi * s;
      y[j + 1] = xr * s + xi * c;
    }
  }
}

/** The next local maximum over ±2 bins from `from` on; the number of bins when there is none. */
function nextPeak(power: Float32Array, from: number): number {
  const bins = power.length;
  for (let k = from; k < bins - 2; k++) {
    const value = power[k];
    if (value > power[k - 1] && value >= power[k + 1] && value > power[k - 2] && value >= power[k + 2]) return k;
  }
  return bins;
}

function closeSeam(plane: Float32Array, preFrames: number, targetFrames: number): Float32Array {
  const out = plane.slice(preFrames, preFrames + targetFrames);
  for (let i = 0; i < preFrames; i++) {
    const mix = (i + 1) / (preFrames + 1),
      at = targetFrames - preFrames + i;
    out[at] = out[at] * (1 - mix) + plane[i] * mix;
  }
  return out;
}
