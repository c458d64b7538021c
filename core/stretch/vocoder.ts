import { KernelNumbers, kernels } from '../dsp/kernels/kernels';
import { realFft, type RealFft } from '../dsp/real-fft';
import { hannSingle } from '../dsp/window';
import { keptByKey } from '../kept/kept';
import { clicksAtJoint } from './joint';
import { RegionFinder, type Regions } from './regions';
import { copyOfFrame, Return, type Frame } from './return';
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

/** A cycle's tones are led back to where they began over its last two seconds, at 44.1 kHz; what begins anew at its start over a fifth. */
const returnFrames = 88200,
  shortReturnFrames = 8820,
  /** So many frames are run through before the first where a cycle's joint clicks, which spreads the click out. */
  runInFrames = 8;

/**
 * Tonal stretch of a cyclic signal by the locked vocoder. The result goes round without a seam: its last frames are turned so that each
 * partial arrives at the phase it began with. Silence gives silence.
 * @param cycle `[channel][frame]`, all channels are moved together
 */
export function stretchTonal(cycle: readonly Float32Array[], map: TimeMap, setting: VocoderSetting = tonalSetting): Float32Array[] {
  const { sourceFrames, targetFrames } = map,
    { overlap } = setting,
    size = frameSize(setting.size, targetFrames),
    frameCount = Math.max(1, Math.round((targetFrames * overlap) / size)),
    place = (frame: number) => Math.round((frame * targetFrames) / frameCount),
    vocoder = new LockedVocoder(cycle.length, size, setting.filter),
    sum = new CycleSum(cycle.length, targetFrames, size),
    // Reading never goes farther than a frame's size and a hop over the end of a cycle.
    margin = 2 * size,
    sources = cycle.map((plane) => unroll(plane, margin, margin)),
    frameAt = (frame: number) =>
      vocoder.next(sources, wrapFrame(Math.round(map.toSource(place(frame))), sourceFrames) + margin, place(frame) - place(frame - 1)),
    framesOf = (length: number) => Math.min(frameCount - 1, Math.ceil((length * frameCount) / targetFrames)),
    returning = framesOf(returnFrames);
  if (cycle.some(clicksAtJoint)) for (let frame = -runInFrames; frame < 0; frame++) frameAt(frame);
  const first = copyOfFrame(frameAt(0)),
    held: Frame[] = [];
  sum.add(first.spectra, 0);
  for (let frame = 1; frame < frameCount; frame++) {
    const made = frameAt(frame);
    if (frame < frameCount - returning) sum.add(made.spectra, place(frame));
    else held.push(copyOfFrame(made));
  }
  const back = new Return(frameAt(frameCount), first, held.at(-overlap) ?? first, returning, framesOf(shortReturnFrames));
  held.forEach((frame, k) => {
    back.apply(frame, returning - k);
    sum.add(frame.spectra, place(frameCount - returning + k));
  });
  return sum.take();
}

/** The frame's size, halved until a cycle holds two, since a frame must not sound over itself. */
export function frameSize(size: number, targetFrames: number): number {
  let fitting = size;
  while (fitting > 256 && 2 * fitting > targetFrames) fitting /= 2;
  return fitting;
}

/**
 * A phase vocoder with identity phase locking (Laroche & Dolson 1999). Each frame is analysed twice, at its place and one synthesis hop
 * before, so that the rotation from frame to frame is a product of unit vectors: no unwrapping. The rotation found at a peak, summed over
 * the channels to keep the stereo image, moves the whole region of that peak. The first frame is as it was.
 */
class LockedVocoder {
  private readonly fft: RealFft;
  private readonly room: Room;
  private readonly finder: RegionFinder;
  private begun = false;

  constructor(
    channelCount: number,
    private readonly size: number,
    private readonly filter?: SpectrumFilter,
  ) {
    this.fft = realFft(size);
    this.room = roomFor(`${size} ${channelCount}`);
    this.finder = new RegionFinder(size / 2);
  }

  /** The frame around `sourceFrame`, `hop` frames after the one made last; valid until the next call, of whichever vocoder. */
  next(sources: readonly Float32Array[], sourceFrame: number, hop: number): Frame {
    const { fft, begun, room } = this,
      from = sourceFrame - this.size / 2;
    sources.forEach((source, channel) => {
      const spectrum = spectrumAt(fft, source, from);
      room.now[channel].view.set(spectrum);
      if (begun) room.before[channel].set(spectrumAt(fft, source, from - hop));
    });
    const now = room.now.map((plane) => plane.view);
    this.filter?.(now);
    // Views are taken when all room is there: memory that grows takes old ones away.
    const regions = this.finder.find(room.now),
      made = room.made.map((plane) => plane.view);
    if (begun) rotateRegions(room, made, regions);
    else made.forEach((plane, channel) => plane.set(room.now[channel].view));
    this.begun = true;
    return { spectra: made, regions };
  }
}

/** The spectra of a frame as it is, of one a hop before, and as it was made, and by what its regions are turned. */
interface Room {
  readonly now: readonly KernelNumbers[];
  readonly before: readonly Float32Array[];
  readonly made: readonly KernelNumbers[];
  readonly starts: KernelNumbers;
  readonly units: KernelNumbers;
}

/** Room for frames of a size and so many channels, made once: no two vocoders are at work at a time. */
const roomFor = keptByKey((key: string): Room => {
  const [size, channelCount] = key.split(' ').map(Number),
    planes = <T>(make: () => T) => Array.from({ length: channelCount }, make);
  return {
    now: planes(() => new KernelNumbers(size)),
    before: planes(() => new Float32Array(size)),
    made: planes(() => new KernelNumbers(size)),
    starts: new KernelNumbers(size / 2 + 1),
    units: new KernelNumbers(size),
  };
});

/** Frames added up round a cycle, each by its window. */
class CycleSum {
  private readonly fft: RealFft;
  private readonly sums: Float32Array[];
  private readonly weights: Float32Array;

  constructor(
    channelCount: number,
    private readonly cycleFrames: number,
    size: number,
  ) {
    this.fft = realFft(size);
    this.sums = Array.from({ length: channelCount }, () => new Float32Array(cycleFrames));
    this.weights = new Float32Array(cycleFrames);
  }

  /** Adds a frame around `centre`. */
  add(spectra: readonly Float32Array[], centre: number): void {
    const { fft, cycleFrames } = this,
      { size } = fft,
      start = wrapFrame(centre - size / 2, cycleFrames),
      addRound = (numbers: KernelNumbers, into: Float32Array, scale: number) => {
        for (let at = start; at + size > 0; at -= cycleFrames) addWindowed(numbers, size, into, at, scale);
      };
    spectra.forEach((spectrum, channel) => {
      fft.spectrum.set(spectrum);
      fft.inverse();
      const { frame } = roomOf(size);
      frame.view.set(fft.time);
      addRound(frame, this.sums[channel], 1 / size);
    });
    addRound(roomOf(size).window, this.weights, 1);
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

/** The spectrum of what lies from a frame on, through the window; good until the next transform. */
function spectrumAt(fft: RealFft, source: Float32Array, from: number): Float32Array {
  const { window, frame } = roomOf(fft.size);
  frame.view.set(source.subarray(from, from + fft.size));
  kernels().multiply(frame.at, window.at, frame.at, fft.size);
  fft.time.set(frame.view);
  fft.forward();
  return fft.spectrum;
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

/** made = now, each region turned by unit( Σ made_before · conj(before) ) at its peak. `made` holds the last frame on entry. */
function rotateRegions({ now, before, made, starts, units }: Room, last: readonly Float32Array[], regions: Regions): void {
  const { count, peaks } = regions,
    turns = units.view;
  for (let region = 0; region < count; region++) {
    const centre = 2 * peaks[region];
    let re = 0,
      im = 0;
    for (let channel = 0; channel < last.length; channel++) {
      const y = last[channel],
        x = before[channel];
      re += y[centre] * x[centre] + y[centre + 1] * x[centre + 1];
      im += y[centre + 1] * x[centre] - y[centre] * x[centre + 1];
    }
    const norm = Math.sqrt(re * re + im * im);
    turns[2 * region] = norm > 1e-20 ? re / norm : 1;
    turns[2 * region + 1] = norm > 1e-20 ? im / norm : 0;
  }
  starts.view.set(regions.starts.subarray(0, count + 1));
  now.forEach((spectrum, channel) => {
    kernels().turnRegions(spectrum.at, made[channel].at, starts.at, units.at, count);
    // What never turns: a constant, and the highest bin.
    last[channel].set(spectrum.view.subarray(0, 2));
  });
}
