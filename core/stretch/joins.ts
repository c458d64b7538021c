export interface JoinSetting {
  /** So much of the beginning is never touched … */
  readonly headFrames: number;
  /** … and so large a share of it, when that is more: the sound is stretched where it has died away. */
  readonly headShare: number;
  /** So much of the end is never touched, since it leads into the next hit; no larger a share of it, though. */
  readonly endFrames: number;
  readonly endShare: number;
  /** A grain is faded into the next over half its length. */
  readonly grainFrames: number;
  readonly searchFrames: number;
  /** Whether what dies away goes on dying away at its own pace when it is lengthened, and not at a slower one. */
  readonly keepsDecay: boolean;
}

/** At 44.1 kHz: 40 ms, 20 ms. Set on the tuning half of `bench:audio`, November 2026. */
export const joinSetting: JoinSetting = {
  headFrames: 1764,
  headShare: 0.8,
  endFrames: 441,
  endShare: 0.15,
  grainFrames: 1024,
  searchFrames: 220,
  keepsDecay: true,
};

/** From `at` on, over `fadeFrames`, reading goes over to `i + offset`. */
export interface Join {
  readonly at: number;
  readonly offset: number;
  readonly fadeFrames: number;
  readonly gainRatio: number;
}

const compareFrames = 256,
  /** 5 ms. */
  decayBlock = 220,
  /** −50 dB. */
  quietestRatio = 0.003;

/**
 * How `sourceLength` frames from `from` on are read to last `targetLength`: the first as they are, the last as they are (the end of the
 * result is the end of the source), and joins in between where the sound goes on as it would have.
 * @param guide one channel that stands for all
 * @returns joins by place; the first is at 0, reads at 0 and has no fade
 */
export function layJoins(guide: Float32Array, from: number, sourceLength: number, targetLength: number, setting: JoinSetting): Join[] {
  const start: Join = { at: 0, offset: 0, fadeFrames: 0, gainRatio: 1 },
    last = sourceLength - targetLength;
  if (last === 0) return [start];
  const { grainFrames, searchFrames } = setting,
    shorter = Math.min(sourceLength, targetLength),
    fade = Math.min(grainFrames / 2, Math.floor(shorter * 0.3)),
    end = Math.min(setting.endFrames, Math.floor(shorter * setting.endShare)),
    latest = targetLength - end - fade,
    head = Math.max(Math.min(setting.headFrames, Math.floor(shorter * 0.5)), Math.floor(shorter * setting.headShare)),
    earliest = Math.min(latest, head);
  const decay = setting.keepsDecay && last < 0 ? decayPerFrame(guide, from, sourceLength) : 0,
    gainAt = (offset: number) => Math.max(quietestRatio, Math.exp(decay * Math.min(0, offset)));
  // Cutting a piece out, or repeating a short one, takes a single join: at the best place there is.
  if (last > 0 || -last <= fade * 2) {
    const low = Math.min(latest, Math.max(head, -last, last > 0 ? latest - setting.grainFrames : 0));
    return [start, { at: bestPlace(guide, from, last, low, latest), offset: last, fadeFrames: fade, gainRatio: gainAt(last) }];
  }
  const joins: Join[] = [start],
    // The middle is read at an even, slower pace.
    pace = (place: number) => (last * (place - earliest)) / Math.max(1, latest - earliest);
  let offset = 0;
  for (let at = earliest; at + fade * 1.5 < latest; at += fade) {
    const ideal = Math.round(pace(at + fade / 2));
    offset = bestOffset(guide, from + at, offset, Math.max(ideal - searchFrames, -at), ideal + searchFrames);
    joins.push({ at, offset, fadeFrames: fade, gainRatio: gainAt(offset) });
  }
  joins.push({ at: latest, offset: last, fadeFrames: fade, gainRatio: gainAt(last) });
  return joins;
}

/**
 * How fast the sound dies away, as the natural logarithm of its amplitude a frame; 0 for what holds or swells. The line of least squares
 * through the levels of blocks from the loudest on.
 */
function decayPerFrame(guide: Float32Array, from: number, length: number): number {
  const levels: number[] = [];
  for (let at = 0; at + decayBlock <= length; at += decayBlock) {
    let power = 1e-12;
    for (let i = 0; i < decayBlock; i += 2) power += guide[from + at + i] ** 2;
    levels.push(Math.log(power) / 2);
  }
  const falling = levels.slice(levels.indexOf(Math.max(...levels))),
    count = falling.length;
  if (count < 4) return 0;
  const middle = (count - 1) / 2,
    mean = falling.reduce((sum, value) => sum + value, 0) / count;
  let up = 0,
    across = 0;
  falling.forEach((value, k) => {
    up += (k - middle) * (value - mean);
    across += (k - middle) ** 2;
  });
  return Math.max(0, -up / across) / decayBlock;
}

/** Likeness of two places of the guide, −1 … 1, on every `stride`th frame. */
function likeness(guide: Float32Array, one: number, other: number, stride: number): number {
  let dot = 0,
    energy = 1e-9,
    otherEnergy = 1e-9;
  for (let i = 0; i < compareFrames; i += stride) {
    const a = guide[one + i],
      b = guide[other + i];
    dot += a * b;
    energy += a * a;
    otherEnergy += b * b;
  }
  return dot / Math.sqrt(energy * otherEnergy);
}

/** Where between `low` and `high` going over to `offset` is heard least. */
function bestPlace(guide: Float32Array, from: number, offset: number, low: number, high: number): number {
  const score = (at: number, stride: number) => likeness(guide, from + at, from + at + offset, stride);
  return refine(low, high, 16, 4, score);
}

/** Which offset near the ideal goes on best with what is being read. */
function bestOffset(guide: Float32Array, at: number, reading: number, low: number, high: number): number {
  return refine(low, high, 4, 4, (offset, stride) => likeness(guide, at + reading, at + offset, stride));
}

/** The best of `low` … `high`: first every `step`th on few frames, then each near the best one on more. */
function refine(low: number, high: number, step: number, stride: number, score: (value: number, stride: number) => number): number {
  let best = low,
    bestScore = -Infinity;
  for (let value = low; value <= high; value += step) {
    const found = score(value, stride);
    if (found > bestScore) {
      bestScore = found;
      best = value;
    }
  }
  bestScore = -Infinity;
  const around = best;
  for (let value = Math.max(low, around - step + 1); value <= Math.min(high, around + step - 1); value++) {
    const found = score(value, 2);
    if (found > bestScore) {
      bestScore = found;
      best = value;
    }
  }
  return best;
}
