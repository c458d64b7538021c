import { highestBetween, survey } from '../../dsp/kernels/planes';
import { powerToDb, ratioToDb } from '../../units/level';
import { gatedLoudness, kWeightedSteps, KWeightedMeter, type WeightedSteps } from '../loudness/loudness';

/** Facts of level; dB values are null for silence. */
export interface Levels {
  readonly integratedLufs: number | null;
  /** Largest loudness of any 3 s (EBU Tech 3341), the sound repeated when it is shorter. */
  readonly shortTermMaxLufs: number | null;
  /** Spread of loud and quiet parts (EBU Tech 3342); null below 6 s. */
  readonly rangeLu: number | null;
  /** Four times oversampled (BS.1770-4, annex 2). */
  readonly truePeakDbtp: number | null;
  /** Level of the quietest twentieth. */
  readonly noiseFloorDbfs: number | null;
  /** Runs of three and more frames at full scale. */
  readonly clippedRuns: number;
  readonly dc: number;
  /** 0 mono – 1 sides as strong as the middle. */
  readonly width: number;
  /** What is lost when both sides are summed to one, dB; 0 for mono. */
  readonly monoLossDb: number;
  /** Where the spectrum ends as if cut, see `bandLimitHz`. Loops that were analysed before this was measured do not have it. */
  readonly bandLimitHz?: number | null;
}

const overlap = 11,
  fullScale = 0.9999;
const floorBlockSeconds = 0.02;

/** The curve between frames is looked for in stretches of so many. */
const stretchFrames = 512;

/** All levels of a sound that comes piece by piece, in memory that hardly grows with it: twenty minutes need no more than a bar. */
export class LevelMeter {
  private frames = 0;
  private peak = 0;
  private truePeak = 0;
  private sum = 0;
  private clippedRuns = 0;
  private readonly runs: number[];
  /** The last frames of the piece before, for the curve between the pieces. */
  private readonly carried: Float32Array[];
  private middle = 0;
  private side = 0;
  private each = 0;
  private blockPower = 0;
  private blockLeft: number;
  private readonly blockFrames: number;
  private readonly blockPowers: number[] = [];
  private readonly weighted: KWeightedMeter;

  constructor(
    private readonly channelCount: number,
    private readonly sampleRateHz: number,
  ) {
    this.runs = new Array<number>(channelCount).fill(0);
    this.carried = Array.from({ length: channelCount }, () => new Float32Array(0));
    this.blockFrames = this.blockLeft = Math.round(floorBlockSeconds * sampleRateHz);
    this.weighted = new KWeightedMeter(Math.min(2, channelCount), sampleRateHz);
  }

  /** Largest absolute sample so far. */
  get samplePeak(): number {
    return this.peak;
  }

  push(planes: readonly Float32Array[]): void {
    this.blocks(planes);
    planes.forEach((plane, channel) => this.between(plane, channel));
    this.weighted.push(planes);
    this.frames += planes[0]?.length ?? 0;
  }

  /** @param tiled the whole of a sound too short to be measured as it is: it is taken as it sounds when it repeats */
  finish(tiled: readonly Float32Array[] | null = null): Levels {
    return {
      ...blockLoudness(
        tiled ? kWeightedSteps(tiled, this.sampleRateHz) : this.weighted.steps(),
        this.sampleRateHz,
        this.frames >= 6 * this.sampleRateHz,
      ),
      truePeakDbtp: this.peak > 0 ? ratioToDb(Math.max(this.peak, this.truePeak)) : null,
      clippedRuns: this.clippedRuns,
      dc: this.frames ? this.sum / this.frames / this.channelCount : 0,
      noiseFloorDbfs: this.noiseFloor(),
      ...this.stereo(),
    };
  }

  /** Sums, energies and peaks in the blocks of the noise floor, two channels at a time; a lone one beside itself. */
  private blocks(planes: readonly Float32Array[]): void {
    const frames = planes[0]?.length ?? 0;
    for (let from = 0; from < frames;) {
      const to = Math.min(frames, from + this.blockLeft);
      for (let channel = 0; channel < planes.length; channel += 2) {
        const lone = channel + 1 >= planes.length,
          { sums, energies, shared, peaks } = survey(planes[channel], planes[lone ? channel : channel + 1], from, to),
          both = energies[0] + energies[1];
        for (let k = 0; k < (lone ? 1 : 2); k++) {
          this.sum += sums[k];
          this.peak = Math.max(this.peak, peaks[k]);
          this.blockPower += energies[k] / this.blockFrames / this.channelCount;
          if (peaks[k] >= fullScale || this.runs[channel + k] > 0) this.countClipped(planes[channel + k], channel + k, from, to);
        }
        if (channel > 0 || lone) continue;
        this.middle += (both + 2 * shared) / 4;
        this.side += Math.max(0, both - 2 * shared) / 4;
        this.each += both / 2;
      }
      this.blockLeft -= to - from;
      from = to;
      if (this.blockLeft > 0) continue;
      this.blockPowers.push(this.blockPower);
      this.blockPower = 0;
      this.blockLeft = this.blockFrames;
    }
  }

  private countClipped(plane: Float32Array, channel: number, from: number, to: number): void {
    let run = this.runs[channel];
    for (let i = from; i < to; i++)
      if (Math.abs(plane[i]) < fullScale) run = 0;
      else if (++run === 3) this.clippedRuns++;
    this.runs[channel] = run;
  }

  private between(plane: Float32Array, channel: number): void {
    const before = this.carried[channel];
    let joined = plane;
    if (before.length) {
      joined = new Float32Array(before.length + plane.length);
      joined.set(before);
      joined.set(plane, before.length);
    }
    this.curve(joined);
    this.carried[channel] = joined.slice(-overlap);
  }

  /** A stretch whose own peak is low is passed over: between frames the curve rises above them by 3 dB at most, but for noise at the very top. */
  private curve(plane: Float32Array): void {
    const end = plane.length - 6;
    let most = Math.max(this.peak, this.truePeak);
    for (let from = 5; from < end; from += stretchFrames) {
      const to = Math.min(end, from + stretchFrames);
      if (survey(plane, plane, from, to + 1).peaks[0] >= most * 0.7) most = Math.max(most, highestBetween(plane, from, to));
    }
    this.truePeak = most;
  }

  private noiseFloor(): number | null {
    const sorted = [...this.blockPowers].sort((a, b) => a - b),
      floor = sorted[Math.floor(sorted.length / 20)] ?? 0;
    return floor > 1e-12 ? powerToDb(floor) : null;
  }

  private stereo(): Pick<Levels, 'width' | 'monoLossDb'> {
    const { middle, side, each } = this;
    if (this.channelCount < 2 || each <= 0) return { width: 0, monoLossDb: 0 };
    return {
      width: Math.min(1, Math.sqrt(side / Math.max(middle, 1e-12))),
      monoLossDb: Math.min(60, Math.max(0, powerToDb(each / Math.max(middle, each * 1e-6)))),
    };
  }
}

function blockLoudness(
  steps: WeightedSteps,
  sampleRateHz: number,
  long: boolean,
): Pick<Levels, 'integratedLufs' | 'shortTermMaxLufs' | 'rangeLu'> {
  const { energies, stepFrames } = steps,
    inWindow = Math.round((3 * sampleRateHz) / stepFrames),
    values: number[] = [];
  let sum = 0;
  for (let k = 0; k < energies.length; k++) {
    sum += energies[k];
    if (k >= inWindow) sum -= energies[k - inWindow];
    const mean = sum / (inWindow * stepFrames);
    if (k >= inWindow - 1 && mean > 1e-10) values.push(-0.691 + powerToDb(mean));
  }
  const integratedLufs = gatedLoudness(steps);
  if (!values.length) return { integratedLufs, shortTermMaxLufs: null, rangeLu: null };
  const shortTermMaxLufs = values.reduce((a, b) => Math.max(a, b), -Infinity);
  // Range: 95th less 10th percentile, above −70 LUFS and above 20 LU below the mean power (EBU Tech 3342).
  const loud = values.filter((value) => value > -70),
    mean = powerToDb(loud.reduce((total, value) => total + 10 ** (value / 10), 0) / (loud.length || 1)),
    kept = loud.filter((value) => value > mean - 20).sort((a, b) => a - b);
  return {
    integratedLufs,
    shortTermMaxLufs,
    rangeLu: long && kept.length ? kept[Math.floor(0.95 * (kept.length - 1))] - kept[Math.floor(0.1 * (kept.length - 1))] : null,
  };
}
