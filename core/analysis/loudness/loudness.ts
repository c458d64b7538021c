import type { Biquad } from '../../dsp/biquad';
import { peakOf } from '../../dsp/kernels/planes';
import { powerToDb, ratioToDb } from '../../units/level';

/** K-weighting, derived for any rate from the analogue prototype of ITU-R BS.1770-4, annex 1 (values by bilinear transform). */
export function kWeighting(sampleRateHz: number): readonly [Biquad, Biquad] {
  const shelf = (() => {
    const f0 = 1681.974450955533,
      gainDb = 3.999843853973347,
      q = 0.7071752369554196;
    const k = Math.tan((Math.PI * f0) / sampleRateHz);
    const vh = 10 ** (gainDb / 20),
      vb = vh ** 0.4996667741545416;
    const a0 = 1 + k / q + k * k;
    return {
      b0: (vh + (vb * k) / q + k * k) / a0,
      b1: (2 * (k * k - vh)) / a0,
      b2: (vh - (vb * k) / q + k * k) / a0,
      a1: (2 * (k * k - 1)) / a0,
      a2: (1 - k / q + k * k) / a0,
    };
  })();
  const highPass = (() => {
    const f0 = 38.13547087602444,
      q = 0.5003270373238773;
    const k = Math.tan((Math.PI * f0) / sampleRateHz);
    const a0 = 1 + k / q + k * k;
    return { b0: 1, b1: -2, b2: 1, a1: (2 * (k * k - 1)) / a0, a2: (1 - k / q + k * k) / a0 };
  })();
  return [shelf, highPass];
}

const blockSeconds = 0.4;
const absoluteGateLufs = -70;
const relativeGateLu = -10;
const offsetLufs = -0.691;

/** K-weighted energy of each 100 ms, summed over the channels and over the frames of the step. */
export interface WeightedSteps {
  readonly energies: Float64Array;
  readonly stepFrames: number;
}

/** What both filters of a channel remember, and its energy in the step so far. */
interface FilterState {
  x1: number;
  x2: number;
  y1: number;
  y2: number;
  z1: number;
  z2: number;
  sum: number;
}

const atRest = (): FilterState => ({ x1: 0, x2: 0, y1: 0, y2: 0, z1: 0, z2: 0, sum: 0 });

/** K-weighted steps of a sound that comes piece by piece; what does not fill a step is left out. */
export class KWeightedMeter {
  private readonly stepFrames: number;
  private readonly states: FilterState[];
  private readonly energies: number[] = [];
  /** Frames that the step still lacks. */
  private left: number;

  constructor(
    channelCount: number,
    private readonly sampleRateHz: number,
  ) {
    this.stepFrames = Math.round((blockSeconds * sampleRateHz) / 4);
    this.left = this.stepFrames;
    this.states = Array.from({ length: channelCount }, atRest);
  }

  /** Runs the filters on without counting: what is heard before the measure begins. */
  warm(planes: readonly Float32Array[]): void {
    this.push(planes);
    this.energies.length = 0;
    this.left = this.stepFrames;
    for (const state of this.states) state.sum = 0;
  }

  push(planes: readonly Float32Array[]): void {
    const frames = planes[0]?.length ?? 0,
      { states } = this;
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.left);
      for (let channel = 0; channel < states.length; channel += 2)
        this.run(from, to, planes[channel], states[channel], planes[channel + 1], states[channel + 1]);
      this.left -= to - from;
      from = to;
      if (this.left > 0) continue;
      this.energies.push(states.reduce((sum, state) => sum + state.sum, 0));
      for (const state of states) state.sum = 0;
      this.left = this.stepFrames;
    }
  }

  /**
   * Both filters of two channels in one pass: no arrays in between, and while one channel waits for its last value the other is worked
   * out. A lone channel goes beside itself, which costs nothing.
   */
  private run(from: number, to: number, one: Float32Array, mine: FilterState, other = one, its = atRest()): void {
    const [{ b0, b1, b2, a1, a2 }, { a1: c1, a2: c2 }] = kWeighting(this.sampleRateHz);
    let { x1, x2, y1, y2, z1, z2, sum } = mine,
      { x1: u1, x2: u2, y1: v1, y2: v2, z1: w1, z2: w2, sum: total } = its;
    for (let i = from; i < to; i++) {
      const x = one[i],
        u = other[i],
        y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2,
        v = b0 * u + b1 * u1 + b2 * u2 - a1 * v1 - a2 * v2,
        z = y - 2 * y1 + y2 - c1 * z1 - c2 * z2,
        w = v - 2 * v1 + v2 - c1 * w1 - c2 * w2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      z2 = z1;
      z1 = z;
      u2 = u1;
      u1 = u;
      v2 = v1;
      v1 = v;
      w2 = w1;
      w1 = w;
      sum += z * z;
      total += w * w;
    }
    Object.assign(mine, { x1, x2, y1, y2, z1, z2, sum });
    Object.assign(its, { x1: u1, x2: u2, y1: v1, y2: v2, z1: w1, z2: w2, sum: total });
  }

  steps(): WeightedSteps {
    return { energies: Float64Array.from(this.energies), stepFrames: this.stepFrames };
  }
}

/** The steps of a whole sound. One shorter than 3 s is taken *tiled*, as it sounds when it repeats; else a snippet would have no block at all. */
export function kWeightedSteps(channels: readonly Float32Array[], sampleRateHz: number): WeightedSteps {
  const frames = channels[0]?.length ?? 0,
    planes = channels.slice(0, 2),
    meter = new KWeightedMeter(planes.length, sampleRateHz);
  if (frames === 0) return meter.steps();
  const laps = Math.max(1, Math.ceil((3 * sampleRateHz) / frames));
  // The first lap of a tiled sound only brings the filters to where repeating leaves them.
  if (laps > 1) meter.warm(planes);
  for (let lap = 0; lap < laps; lap++) meter.push(planes);
  return meter.steps();
}

/**
 * Integrated loudness (ITU-R BS.1770-4): 400 ms blocks, 75 % overlap, gates at −70 LUFS and −10 LU.
 * @returns LUFS, or null for silence
 */
export function integratedLoudness(channels: readonly Float32Array[], sampleRateHz: number): number | null {
  return gatedLoudness(kWeightedSteps(channels, sampleRateHz));
}

/** The same from the steps, for those who measure more of them. */
export function gatedLoudness({ energies, stepFrames }: WeightedSteps): number | null {
  // Blocks overlap by three quarters: four steps make one.
  const powers: number[] = [];
  for (let k = 0; k + 4 <= energies.length; k++)
    powers.push((energies[k] + energies[k + 1] + energies[k + 2] + energies[k + 3]) / (4 * stepFrames));
  const toLufs = (mean: number) => offsetLufs + powerToDb(mean);
  const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;
  const audible = powers.filter((each) => toLufs(each) > absoluteGateLufs);
  if (audible.length === 0) return null;
  const threshold = toLufs(mean(audible)) + relativeGateLu;
  return toLufs(mean(audible.filter((each) => toLufs(each) > threshold)));
}

/** Largest absolute sample, in dBFS; null for silence. */
export function samplePeakDbfs(channels: readonly Float32Array[]): number | null {
  const peak = channels.reduce((most, plane) => Math.max(most, peakOf(plane)), 0);
  return peak === 0 ? null : ratioToDb(peak);
}
