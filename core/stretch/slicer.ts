const preFrames = 44; // 1 ms at 44.1 kHz: a slice begins this much before its hit
const verbatimFrames = 1764; // 40 ms of attack are never touched
const grainFrames = 1024;
const searchFrames = 220;

/**
 * Percussive stretch: every hit is moved to its scaled place with its attack untouched; what follows is cut or lengthened.
 * Everything wraps around, so the result is a loop of exactly `targetFrames`. Method: slicing at onsets, tails lengthened
 * by WSOLA (Verhelst & Roelants 1993).
 * @param onsetFrames hits in frames of the cycle, ascending; at least one
 */
export function stretchSlices(cycle: readonly Float32Array[], onsetFrames: readonly number[], targetFrames: number): Float32Array[] {
  const sourceFrames = cycle[0].length;
  const ratio = targetFrames / sourceFrames;
  const out = cycle.map(() => new Float32Array(targetFrames));
  const count = onsetFrames.length;
  for (let index = 0; index < count; index++) {
    const from = onsetFrames[index] - preFrames;
    const next = index + 1 < count ? onsetFrames[index + 1] : onsetFrames[0] + sourceFrames;
    const place = Math.round(onsetFrames[index] * ratio) - preFrames;
    const nextPlace = index + 1 < count ? Math.round(onsetFrames[index + 1] * ratio) : Math.round(onsetFrames[0] * ratio) + targetFrames;
    const sourceLength = next - preFrames - from,
      targetLength = nextPlace - preFrames - place;
    if (targetLength <= 0 || sourceLength <= 0) continue;
    placeSlice(cycle, out, { from, sourceLength, place, targetLength });
  }
  return out;
}

interface Slice {
  from: number;
  sourceLength: number;
  place: number;
  targetLength: number;
}

/** Writes one slice, fading in over its first and out over the `preFrames` behind its end, so that neighbours sum to one. */
function placeSlice(cycle: readonly Float32Array[], out: readonly Float32Array[], slice: Slice): void {
  const { from, sourceLength, place, targetLength } = slice;
  const total = targetLength + preFrames;
  const positions = total <= sourceLength + preFrames ? null : grainPositions(cycle[0], slice, total);
  for (let channel = 0; channel < cycle.length; channel++) {
    const source = cycle[channel],
      target = out[channel];
    const read = (at: number) => source[wrap(from + at, source.length)];
    for (let i = 0; i < total; i++) {
      const sample = positions === null ? read(i) : readGrains(read, positions, i);
      const gain = i < preFrames ? i / preFrames : i >= targetLength ? (total - i) / preFrames : 1;
      target[wrap(place + i, target.length)] += sample * gain;
    }
  }
}

const wrap = (at: number, length: number): number => ((at % length) + length) % length;

/** Where each grain of the lengthened part reads from; hop is half a grain. */
interface Grains {
  readonly start: number;
  readonly reads: readonly number[];
}

function grainPositions(source: Float32Array, { from, sourceLength }: Slice, total: number): Grains {
  const start = Math.min(verbatimFrames, Math.floor(sourceLength / 2));
  const hop = grainFrames / 2;
  const rate = (sourceLength - start) / (total - start);
  const latest = Math.max(0, sourceLength - grainFrames);
  const reads: number[] = [];
  for (let k = 0; start + k * hop < total + hop; k++) {
    const ideal = Math.min(latest, Math.max(0, Math.round(start + k * hop * rate)));
    if (k === 0) {
      reads.push(start);
      continue;
    }
    reads.push(bestMatch(source, from, reads[k - 1] + hop, ideal, latest));
  }
  return { start, reads };
}

/** The place near `ideal` that continues best what the last grain goes on with (normalised cross-correlation, every 2nd frame). */
function bestMatch(source: Float32Array, from: number, goesOn: number, ideal: number, latest: number): number {
  const low = Math.max(0, ideal - searchFrames),
    high = Math.min(latest, ideal + searchFrames);
  let best = Math.min(Math.max(ideal, low), Math.max(low, high)),
    bestScore = -Infinity;
  for (let candidate = low; candidate <= high; candidate += 4) {
    let dot = 0,
      energy = 1e-9;
    for (let i = 0; i < 256; i += 4) {
      const a = source[wrap(from + goesOn + i, source.length)],
        b = source[wrap(from + candidate + i, source.length)];
      dot += a * b;
      energy += b * b;
    }
    const score = dot / Math.sqrt(energy);
    if (score > bestScore) {
      bestScore = score;
      best = candidate;
    }
  }
  return best;
}

/** Before `start` the source as it is; then grains, each crossfaded linearly into the next over half a grain. */
function readGrains(read: (at: number) => number, { start, reads }: Grains, at: number): number {
  if (at < start) return read(at);
  const hop = grainFrames / 2;
  const k = Math.floor((at - start) / hop),
    within = at - start - k * hop;
  const older = read(reads[Math.max(0, k - 1)] + (k > 0 ? within + hop : within)),
    newer = read(reads[k] + within);
  const mix = k === 0 ? 1 : within / hop;
  return older * (1 - mix) + newer * mix;
}
