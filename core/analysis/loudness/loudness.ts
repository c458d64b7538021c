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
    const first = { x1: 0, x2: 0, y1: 0, y2: 0 },
      second = { x1: 0, x2: 0, y1: 0, y2: 0 };
    for (let i = 0, read = 0; i < total; i++, read++) {
      if (read === frames) read = 0;
      const x = plane[read],
        y = shelf.b0 * x + shelf.b1 * first.x1 + shelf.b2 * first.x2 - shelf.a1 * first.y1 - shelf.a2 * first.y2;
      first.x2 = first.x1;
      first.x1 = x;
      first.y2 = first.y1;
      first.y1 = y;
      const z = highPass.b0 * y + highPass.b1 * second.x1 + highPass.b2 * second.x2 - highPass.a1 * second.y1 - highPass.a2 * second.y2;
      second.x2 = second.x1;
      second.x1 = y;
      second.y2 = second.y1;
      second.y1 = z;
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
  const block = Math.round(blockSeconds * sampleRateHz),
    hop = Math.round(block / 4);
  const powers: number[] = [];
  for (let start = 0; start + block <= power.length; start += hop) {
    let sum = 0;
    for (let i = start; i < start + block; i++) sum += power[i];
    powers.push(sum / block);
  }
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
