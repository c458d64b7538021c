import type { Biquad } from '../../dsp/biquad';
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

/**
 * K-weighted power of each frame, summed over the channels. A sound shorter than 3 s is taken *tiled*, as it sounds when it repeats;
 * else a snippet would have no block at all.
 */
export function kWeightedPower(channels: readonly Float32Array[], sampleRateHz: number): Float64Array {
  const frames = channels[0]?.length ?? 0;
  if (frames === 0) return new Float64Array(0);
  const laps = Math.max(1, Math.ceil((3 * sampleRateHz) / frames));
  const skipped = laps > 1 ? frames : 0;
  const [shelf, highPass] = kWeighting(sampleRateHz);
  const total = laps > 1 ? frames * (laps + 1) : frames;
  const power = new Float64Array(total - skipped);
  for (const plane of channels.slice(0, 2)) {
    // Both filters in one pass: no arrays in between, and no tiled copy of a short loop.
    const { b0, b1, b2, a1, a2 } = shelf,
      { a1: c1, a2: c2 } = highPass;
    let x1 = 0,
      x2 = 0,
      y1 = 0,
      y2 = 0,
      z1 = 0,
      z2 = 0;
    for (let i = 0, read = 0; i < total; i++, read++) {
      if (read === frames) read = 0;
      const x = plane[read],
        y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2,
        z = y - 2 * y1 + y2 - c1 * z1 - c2 * z2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      z2 = z1;
      z1 = z;
      if (i >= skipped) power[i - skipped] += z * z;
    }
  }
  return power;
}

/**
 * Integrated loudness (ITU-R BS.1770-4): 400 ms blocks, 75 % overlap, gates at −70 LUFS and −10 LU.
 * @returns LUFS, or null for silence
 */
export function integratedLoudness(channels: readonly Float32Array[], sampleRateHz: number): number | null {
  return gatedLoudness(kWeightedPower(channels, sampleRateHz), sampleRateHz);
}

/** The same from the power, for those who measure more of it. */
export function gatedLoudness(power: Float64Array, sampleRateHz: number): number | null {
  const hop = Math.round((blockSeconds * sampleRateHz) / 4);
  // Blocks overlap by three quarters: four sums of a quarter make one.
  const quarters = new Float64Array(Math.floor(power.length / hop)),
    powers: number[] = [];
  for (let k = 0; k < quarters.length; k++) {
    let sum = 0;
    for (let i = k * hop; i < (k + 1) * hop; i++) sum += power[i];
    quarters[k] = sum;
  }
  for (let k = 0; k + 4 <= quarters.length; k++)
    powers.push((quarters[k] + quarters[k + 1] + quarters[k + 2] + quarters[k + 3]) / (4 * hop));
  const toLufs = (mean: number) => offsetLufs + powerToDb(mean);
  const mean = (list: number[]) => list.reduce((a, b) => a + b, 0) / list.length;
  const audible = powers.filter((each) => toLufs(each) > absoluteGateLufs);
  if (audible.length === 0) return null;
  const threshold = toLufs(mean(audible)) + relativeGateLu;
  return toLufs(mean(audible.filter((each) => toLufs(each) > threshold)));
}

/** Largest absolute sample, in dBFS; null for silence. */
export function samplePeakDbfs(channels: readonly Float32Array[]): number | null {
  let peak = 0;
  for (const plane of channels)
    for (let i = 0; i < plane.length; i++) {
      const size = Math.abs(plane[i]);
      if (size > peak) peak = size;
    }
  return peak === 0 ? null : ratioToDb(peak);
}
