import { toMono } from '../../dsp/spectrogram';

const beforeSeconds = 0.008,
  afterSeconds = 0.008,
  /** Fewer frames than this say nothing about a variance. */
  fewestFrames = 16,
  /** How much more power a part needs than the one before to be the beginning. */
  clearRise = 4,
  /** … and at least this share of the loudest moment's power. */
  audibleShare = 1e-3;

/**
 * Onsets to the frame, for cutting: around each, the moment at which the sound changes most. In a window that ends where the hit is
 * loudest, the frame k is sought that splits it into the two most different parts: the least k · log var(before) + (n − k) · log var(after)
 * (Maeda 1985, an autoregressive picker of first arrivals without the autoregression), of the second difference, so that the tail of a
 * lower sound weighs little.
 * @returns ascending frames, as many or fewer: two that move to the same place are one
 */
export function sharpenOnsets(channels: readonly Float32Array[], sampleRateHz: number, onsetFrames: readonly number[]): number[] {
  const mono = toMono(channels),
    before = Math.round(beforeSeconds * sampleRateHz),
    after = Math.round(afterSeconds * sampleRateHz),
    sharp: number[] = [];
  for (const frame of onsetFrames) {
    const found = changeNear(mono, Math.max(2, frame - before), Math.min(mono.length, frame + after), sampleRateHz) ?? frame;
    if (sharp.length === 0 || found > sharp[sharp.length - 1]) sharp.push(found);
  }
  return sharp;
}

function changeNear(mono: Float32Array, from: number, to: number, sampleRateHz: number): number | null {
  const count = to - from;
  if (count < 4 * fewestFrames) return null;
  const edges = Float64Array.from({ length: count }, (_, i) => mono[from + i] - 2 * mono[from + i - 1] + mono[from + i - 2]),
    smooth = Math.max(1, Math.round(0.0007 * sampleRateHz));
  // The window ends just behind the loudest moment.
  let level = 0,
    loudest = 0,
    end = count;
  for (let i = 0; i < count; i++) {
    level += edges[i] ** 2 - (i >= smooth ? edges[i - smooth] ** 2 : 0);
    if (level > loudest * 1.0000001) {
      loudest = level;
      end = i + 1;
    }
  }
  if (loudest <= 0 || end < 2 * fewestFrames) return null;
  const sums = new Float64Array(end + 1);
  for (let i = 0; i < end; i++) sums[i + 1] = sums[i] + edges[i] ** 2;
  let best = splitOf(sums, end);
  // What swells begins before it changes most: go back while it is clearly louder than what was there before.
  if (best !== null) {
    const quiet = Math.max(fewestFrames, Math.floor(best / 3)),
      base = Math.max((clearRise * sums[quiet]) / quiet, (audibleShare * loudest) / smooth);
    while (best > quiet + smooth && (sums[best] - sums[best - smooth]) / smooth > base) best--;
  }
  return best === null ? null : from + best;
}

/** The split of the first `end` squares into the two most different parts; null when there are too few. */
function splitOf(sums: Float64Array, end: number): number | null {
  const floor = (sums[sums.length - 1] / (sums.length - 1)) * 1e-5;
  let best: number | null = null,
    bestCost = Infinity;
  for (let k = fewestFrames; k <= end - fewestFrames; k++) {
    const cost = k * Math.log(sums[k] / k + floor) + (end - k) * Math.log((sums[end] - sums[k]) / (end - k) + floor);
    if (cost < bestCost) {
      bestCost = cost;
      best = k;
    }
  }
  return best;
}
