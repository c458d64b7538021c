import type { Biquad } from '../../dsp/biquad';
import { peakOf, weigh, weighingStateSize } from '../../dsp/kernels/planes';
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

/** K-weighted steps of a sound that comes piece by piece; what does not fill a step is left out. */
export class KWeightedMeter {
  private readonly stepFrames: number;
  /** What the filters remember, and the energy of the step so far: of two channels each; a lone one goes beside itself, which costs nothing. */
  private readonly states: Float64Array[];
  private readonly filter: Float64Array;
  private readonly energies: number[] = [];
  /** Frames that the step still lacks. */
  private left: number;

  constructor(
    private readonly channelCount: number,
    sampleRateHz: number,
  ) {
    const [{ b0, b1, b2, a1, a2 }, second] = kWeighting(sampleRateHz);
    this.filter = Float64Array.of(b0, b1, b2, a1, a2, second.a1, second.a2);
    this.stepFrames = Math.round((blockSeconds * sampleRateHz) / 4);
    this.left = this.stepFrames;
    this.states = Array.from({ length: Math.ceil(channelCount / 2) }, () => new Float64Array(weighingStateSize));
  }

  /** Runs the filters on without counting: what is heard before the measure begins. */
  warm(planes: readonly Float32Array[]): void {
    this.push(planes);
    this.energies.length = 0;
    this.left = this.stepFrames;
    this.clearSums();
  }

  push(planes: readonly Float32Array[]): void {
    const frames = planes[0]?.length ?? 0,
      { states } = this;
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.left);
      states.forEach((state, pair) => weigh(planes[2 * pair], planes[2 * pair + 1] ?? planes[2 * pair], from, to, this.filter, state));
      this.left -= to - from;
      from = to;
      if (this.left > 0) continue;
      this.energies.push(this.clearSums());
      this.left = this.stepFrames;
    }
  }

  /** The energy of the step, which is over. */
  private clearSums(): number {
    let sum = 0;
    this.states.forEach((state, pair) => {
      for (let k = 0; k < Math.min(2, this.channelCount - 2 * pair); k++) sum += state[12 + k];
      state.fill(0, 12);
    });
    return sum;
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
  const cycles = Math.max(1, Math.ceil((3 * sampleRateHz) / frames));
  // The first cycle of a tiled sound only brings the filters to where repeating leaves them.
  if (cycles > 1) meter.warm(planes);
  for (let cycle = 0; cycle < cycles; cycle++) meter.push(planes);
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
