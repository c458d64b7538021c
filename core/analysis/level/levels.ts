import { ratioToDb } from '../../units/level';
import { gatedLoudness, kWeightedSteps } from '../loudness/loudness';

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

/** 12 taps at each of the three positions between two frames: a windowed sinc. */
const between = [0.25, 0.5, 0.75].map((offset) =>
  Float64Array.from({ length: 12 }, (_, k) => {
    const x = k - 5 - offset;
    return (Math.sin(Math.PI * x) / (Math.PI * x)) * (0.5 + 0.5 * Math.cos((Math.PI * x) / 6.5));
  }),
);

export function measureLevels(channels: readonly Float32Array[], sampleRateHz: number): Levels {
  const frames = channels[0]?.length ?? 0;
  let peak = 0,
    clippedRuns = 0,
    sum = 0;
  for (const plane of channels) {
    let run = 0;
    for (let i = 0; i < frames; i++) {
      const size = Math.abs(plane[i]);
      sum += plane[i];
      if (size > peak) peak = size;
      if (size >= 0.9999) {
        if (++run === 3) clippedRuns++;
      } else run = 0;
    }
  }
  const truePeak = peak > 0 ? oversampledPeak(channels, peak) : 0;
  const { width, monoLossDb } = stereo(channels);
  const loudness = blockLoudness(channels, sampleRateHz);
  return {
    ...loudness,
    truePeakDbtp: truePeak > 0 ? ratioToDb(truePeak) : null,
    clippedRuns,
    dc: frames ? sum / frames / channels.length : 0,
    noiseFloorDbfs: noiseFloor(channels, sampleRateHz),
    width,
    monoLossDb,
  };
}

function oversampledPeak(channels: readonly Float32Array[], peak: number): number {
  let most = peak;
  for (const plane of channels)
    for (let i = 5; i < plane.length - 6; i++) {
      // Only near the top can the curve between two frames rise above it.
      if (Math.abs(plane[i]) < most * 0.7 && Math.abs(plane[i + 1]) < most * 0.7) continue;
      for (const taps of between) {
        let value = 0;
        for (let k = 0; k < 12; k++) value += taps[k] * plane[i - 5 + k];
        if (Math.abs(value) > most) most = Math.abs(value);
      }
    }
  return most;
}

function stereo(channels: readonly Float32Array[]): { width: number; monoLossDb: number } {
  if (channels.length < 2) return { width: 0, monoLossDb: 0 };
  let middle = 0,
    side = 0,
    each = 0;
  const [left, right] = channels;
  for (let i = 0; i < left.length; i++) {
    const m = (left[i] + right[i]) / 2,
      s = (left[i] - right[i]) / 2;
    middle += m * m;
    side += s * s;
    each += (left[i] * left[i] + right[i] * right[i]) / 2;
  }
  if (each <= 0) return { width: 0, monoLossDb: 0 };
  return {
    width: Math.min(1, Math.sqrt(side / Math.max(middle, 1e-12))),
    monoLossDb: Math.min(60, Math.max(0, 10 * Math.log10(each / Math.max(middle, each * 1e-6)))),
  };
}

function noiseFloor(channels: readonly Float32Array[], sampleRateHz: number): number | null {
  const block = Math.round(0.02 * sampleRateHz),
    levels: number[] = [];
  for (let start = 0; start + block <= (channels[0]?.length ?? 0); start += block) {
    let power = 0;
    for (const plane of channels) for (let i = start; i < start + block; i++) power += (plane[i] * plane[i]) / block / channels.length;
    levels.push(power);
  }
  levels.sort((a, b) => a - b);
  const floor = levels[Math.floor(levels.length / 20)] ?? 0;
  return floor > 1e-12 ? 10 * Math.log10(floor) : null;
}

function blockLoudness(
  channels: readonly Float32Array[],
  sampleRateHz: number,
): Pick<Levels, 'integratedLufs' | 'shortTermMaxLufs' | 'rangeLu'> {
  const steps = kWeightedSteps(channels, sampleRateHz),
    { energies, stepFrames } = steps,
    inWindow = Math.round((3 * sampleRateHz) / stepFrames),
    values: number[] = [];
  let sum = 0;
  for (let k = 0; k < energies.length; k++) {
    sum += energies[k];
    if (k >= inWindow) sum -= energies[k - inWindow];
    const mean = sum / (inWindow * stepFrames);
    if (k >= inWindow - 1 && mean > 1e-10) values.push(-0.691 + 10 * Math.log10(mean));
  }
  const integratedLufs = gatedLoudness(steps);
  if (!values.length) return { integratedLufs, shortTermMaxLufs: null, rangeLu: null };
  const shortTermMaxLufs = values.reduce((a, b) => Math.max(a, b), -Infinity);
  // Range: 95th less 10th percentile, above −70 LUFS and above 20 LU below the mean power (EBU Tech 3342).
  const loud = values.filter((value) => value > -70),
    mean = 10 * Math.log10(loud.reduce((sum, value) => sum + 10 ** (value / 10), 0) / (loud.length || 1)),
    kept = loud.filter((value) => value > mean - 20).sort((a, b) => a - b);
  const long = (channels[0]?.length ?? 0) >= 6 * sampleRateHz;
  return {
    integratedLufs,
    shortTermMaxLufs,
    rangeLu: long && kept.length ? kept[Math.floor(0.95 * (kept.length - 1))] - kept[Math.floor(0.1 * (kept.length - 1))] : null,
  };
}
