import { powerToDb } from '../../units/level';
import { passFilter, type Biquad } from '../../dsp/biquad';
import { toMono } from '../../dsp/spectrogram';

const hopSeconds = 0.0015;
const minimumGapSeconds = 0.03,
  strengthSeconds = 0.03;
/** Rise that counts as a hit, in dB. Set on the demo's drum loops, November 2026. */
export const hitRiseDb = 5;
/** For cutting, a quiet hit too much does less harm than one missed. Set on the tuning half of `bench:audio`, November 2026. */
export const cutRiseDb = 4;
/** What rises by so much may be a hit where one is expected, see `withFaintHits`. Set on the tuning half of `bench:audio`, November 2026. */
export const faintRiseDb = 2;
/** A faint hit nearer to a clear one than this is part of it. */
const faintGapSeconds = 0.045;
/** Periods up to 31 ms (MIDI note 24); so much of the pulse before has to be passed. */
const longestPeriodHops = 24,
  pulseShare = 0.6;

/** How much louder each 1.5 ms is than what was before it, in dB, and what that was heard from; see `onsetRises`. */
export interface OnsetRises {
  readonly mono: Float32Array;
  readonly sampleRateHz: number;
  readonly hopFrames: number;
  readonly riseDb: Float64Array;
}

/**
 * Energy of the whole band and of the band above 2.5 kHz, in 1.5 ms hops: the rise of the mean of the 6 ms after over the 15 ms before and
 * over the strongest 6 ms of a low note's period, at most 40 dB below the loudest; the larger of both bands.
 */
export function onsetRises(channels: readonly Float32Array[], sampleRateHz: number): OnsetRises {
  const mono = toMono(channels),
    hopFrames = Math.max(1, Math.round(hopSeconds * sampleRateHz));
  if (mono.length < sampleRateHz * 0.02) return { mono, sampleRateHz, hopFrames, riseDb: new Float64Array(0) };
  const bands = [energyPerHop(mono, hopFrames), filteredEnergyPerHop(mono, hopFrames, passFilter('high', 2500, sampleRateHz))],
    riseDb = new Float64Array(bands[0].length);
  for (const energy of bands) {
    let loudest = 0;
    for (const value of energy) if (value > loudest) loudest = value;
    if (loudest === 0) continue;
    const floor = loudest * 1e-4,
      means = new Float64Array(energy.length);
    for (let i = 0; i < means.length; i++) means[i] = meanOf(energy, i, i + 4);
    // The loudest of the last hops, and where it was: only when it falls out of reach are the others looked at again.
    let pulse = 0,
      pulseAt = -1;
    for (let i = 0; i < energy.length; i++) {
      if (pulseAt < i - longestPeriodHops) {
        pulse = 0;
        for (let k = Math.max(0, i - longestPeriodHops); k < i - 4; k++)
          if (means[k] >= pulse) {
            pulse = means[k];
            pulseAt = k;
          }
      }
      if (i >= 4 && means[i - 4] >= pulse) {
        pulse = means[i - 4];
        pulseAt = i - 4;
      }
      const after = means[i];
      if (after < floor) continue;
      // A low note is a train of pulses, each no louder than the one a period before: those are no hits.
      const before = Math.max(meanOf(energy, i - 10, i), pulse * pulseShare);
      riseDb[i] = Math.max(riseDb[i], powerToDb((after + floor * 0.1) / (before + floor * 0.1)));
    }
  }
  return { mono, sampleRateHz, hopFrames, riseDb };
}

/**
 * Frames at which a hit begins: where the level rises by so much, refined to where a 0.4 ms mean first passes a tenth of the coming peak.
 * Silence and empty input give none.
 */
export function pickOnsets({ mono, sampleRateHz, hopFrames, riseDb }: OnsetRises, leastRiseDb: number): number[] {
  const gap = Math.round(minimumGapSeconds / hopSeconds),
    onsets: number[] = [];
  for (let i = 0; i < riseDb.length; i++) {
    if (riseDb[i] < leastRiseDb) continue;
    let best = i;
    for (let j = i; j < Math.min(riseDb.length, i + gap); j++) if (riseDb[j] > riseDb[best]) best = j;
    const frame = refineStart(mono, best * hopFrames, hopFrames, sampleRateHz);
    if (onsets.length === 0 || frame - onsets[onsets.length - 1] >= minimumGapSeconds * sampleRateHz * 0.8) onsets.push(frame);
    i = best + gap - 1;
  }
  return onsets;
}

/** Frames at which something may begin that rises too little to be a hit for sure; none of them near a clear one. */
export function pickFaint(rises: OnsetRises, clearFrames: readonly number[]): number[] {
  const gap = faintGapSeconds * rises.sampleRateHz;
  return pickOnsets(rises, faintRiseDb).filter((frame) => clearFrames.every((clear) => Math.abs(clear - frame) > gap));
}

/** Both in one, for those who look once. */
export const detectOnsets = (channels: readonly Float32Array[], sampleRateHz: number, leastRiseDb = hitRiseDb): number[] =>
  pickOnsets(onsetRises(channels, sampleRateHz), leastRiseDb);

/** How hard each hit is, 0–1 against the hardest: the mean level of its first 30 ms, or of what is left before the next one. */
export function hitStrengths(mono: Float32Array, sampleRateHz: number, onsetFrames: readonly number[]): number[] {
  const levels = onsetFrames.map((from, k) => {
    const to = Math.min(mono.length, from + Math.round(strengthSeconds * sampleRateHz), onsetFrames[k + 1] ?? mono.length);
    let sum = 0;
    for (let i = from; i < to; i++) sum += mono[i] * mono[i];
    return Math.sqrt(sum / Math.max(1, to - from));
  });
  const hardest = Math.max(1e-9, ...levels);
  return levels.map((level) => level / hardest);
}

function energyPerHop(signal: Float32Array, hop: number): Float64Array {
  const energy = new Float64Array(Math.ceil(signal.length / hop));
  for (let k = 0; k < energy.length; k++) {
    let sum = 0;
    for (let i = k * hop, to = Math.min(signal.length, i + hop); i < to; i++) sum += signal[i] * signal[i];
    energy[k] = sum;
  }
  return energy;
}

/** The same of what a filter leaves of the signal, without keeping that. */
function filteredEnergyPerHop(signal: Float32Array, hop: number, { b0, b1, b2, a1, a2 }: Biquad): Float64Array {
  const energy = new Float64Array(Math.ceil(signal.length / hop));
  let x1 = 0,
    x2 = 0,
    y1 = 0,
    y2 = 0;
  for (let k = 0; k < energy.length; k++) {
    let sum = 0;
    for (let i = k * hop, to = Math.min(signal.length, i + hop); i < to; i++) {
      const x = signal[i],
        y = b0 * x + b1 * x1 + b2 * x2 - a1 * y1 - a2 * y2;
      x2 = x1;
      x1 = x;
      y2 = y1;
      y1 = y;
      sum += y * y;
    }
    energy[k] = sum;
  }
  return energy;
}

function meanOf(values: Float64Array, from: number, to: number): number {
  let sum = 0;
  for (let i = Math.max(0, from); i < Math.min(values.length, to); i++) sum += values[i];
  return sum / (to - from);
}

/** The first 0.4 ms whose mean, above what was there before, passes a tenth of the peak of the next 6 ms. */
function refineStart(signal: Float32Array, near: number, hop: number, sampleRateHz: number): number {
  const step = Math.max(1, Math.round(0.00036 * sampleRateHz));
  const from = Math.max(0, near - 3 * hop),
    to = Math.min(signal.length, near + 5 * hop);
  const means: number[] = [];
  for (let at = from; at + step <= to; at += step) {
    let sum = 0;
    for (let i = at; i < at + step; i++) sum += Math.abs(signal[i]);
    means.push(sum / step);
  }
  if (means.length === 0) return near;
  const peak = Math.max(...means),
    base = Math.min(...means.slice(0, Math.max(1, Math.floor(means.length / 3))));
  const index = means.findIndex((mean) => mean - base > (peak - base) * 0.1);
  return from + Math.max(0, index) * step;
}
