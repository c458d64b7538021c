import { topOffset } from '../../dsp/parabola';
import { KernelNumbers, kernels } from '../../dsp/kernels/kernels';
import { realFft } from '../../dsp/real-fft';
import { keptOnce } from '../../kept/kept';
import { hzToNote } from '../../units/pitch';

/** The pitch of a single voice over time. */
export interface PitchTrack {
  readonly hopSeconds: number;
  readonly frameCount: number;
  /** MIDI note with its fraction; 0 where no single pitch is heard. Frame k is centred at k × hop. */
  readonly notes: Float32Array;
  /** How periodic each frame is, 0–1. */
  readonly steadiness: Float32Array;
  /** Root mean square of each frame. */
  readonly levels: Float32Array;
}

const window = 1024,
  longestLag = 1024,
  transform = 2048,
  hop = 256,
  lowestNote = 23,
  highestNote = 98,
  gentleHz = 250,
  binsPerNote = 4,
  voicedStates = (highestNote - lowestNote) * binsPerNote + 1;

/** Below this share of steady single pitch a sound is not read as one voice. */
const leastShare = 0.5;

interface Candidate {
  readonly state: number;
  readonly note: number;
  readonly weight: number;
}

/**
 * Pitch by differences of the signal with itself (YIN; de Cheveigné & Kawahara 2002): the thresholds that the original fixes are a
 * distribution here, so that each frame has several candidates, and the likeliest path through all frames is taken (pYIN; Mauch & Dixon
 * 2014, from memory). Frames of 2 × 46 ms at half the rate, every 11.6 ms; 30 Hz to 2.1 kHz.
 * @param mono at 44.1 or 48 kHz
 */
export function trackPitch(mono: Float32Array, sampleRateHz: number): PitchTrack {
  return trackHalf(halve(mono, sampleRateHz / 2), sampleRateHz / 2, 1);
}

/** The track of what is one voice for the most part, null for all else; which it is a look at every eighth frame tells. */
export function trackSingleVoice(mono: Float32Array, sampleRateHz: number): PitchTrack | null {
  const rateHz = sampleRateHz / 2,
    half = halve(mono, rateHz);
  if (singleVoiceShare(trackHalf(half, rateHz, 8)) < leastShare * 0.75) return null;
  const track = trackHalf(half, rateHz, 1);
  return singleVoiceShare(track) < leastShare ? null : track;
}

/** Share of what is loud enough to matter that has one steady pitch, 0–1: high for a single voice, low for chords and drums. */
export function singleVoiceShare({ steadiness, notes, levels }: PitchTrack): number {
  let loudest = 0;
  for (const level of levels) loudest = Math.max(loudest, level);
  let all = 0,
    one = 0;
  for (let frame = 0; frame < levels.length; frame++) {
    if (levels[frame] < loudest * 0.1) continue;
    all += levels[frame];
    if (notes[frame] > 0) one += levels[frame] * Math.min(1, steadiness[frame]);
  }
  return all > 0 ? one / all : 0;
}

/** @param half at half the rate, with silence of `window` in front and `2 × window` behind */
function trackHalf(half: Float32Array, rateHz: number, stride: number): PitchTrack {
  const hopHere = hop * stride,
    frameCount = Math.max(1, Math.ceil((half.length - 3 * window) / hopHere)),
    steadiness = new Float32Array(frameCount),
    levels = new Float32Array(frameCount),
    found: Candidate[][] = [];
  for (let frame = 0; frame < frameCount; frame++) {
    const { candidates, level } = frameCandidates(half, frame * hopHere, rateHz);
    levels[frame] = level;
    for (const { weight } of candidates) steadiness[frame] += weight;
    found.push(candidates);
  }
  return { hopSeconds: hopHere / rateHz, frameCount, notes: likeliestPath(found), steadiness, levels };
}

/**
 * Every second frame after a short low-pass (a half-band filter of 15 taps, windowed sinc) and a gentle high-pass of the first order: the
 * thump of a plucked bass lies below its note and is louder than it, while a lone sine stays a sine. With the silence that `trackHalf` wants.
 */
function halve(signal: Float32Array, rateHz: number): Float32Array {
  const [a, b, c, d] = [0.3098, -0.0824, 0.0299, -0.0073],
    padded = new Float32Array(signal.length + 14),
    out = new Float32Array(Math.floor(signal.length / 2) + 3 * window),
    keep = Math.exp((-2 * Math.PI * gentleHz) / rateHz);
  padded.set(signal, 7);
  let before = 0,
    light = 0;
  for (let i = 0, k = 7; i < out.length - 3 * window; i++, k += 2) {
    const value =
      0.5 * padded[k] +
      a * (padded[k - 1] + padded[k + 1]) +
      b * (padded[k - 3] + padded[k + 3]) +
      c * (padded[k - 5] + padded[k + 5]) +
      d * (padded[k - 7] + padded[k + 7]);
    light = keep * (light + value - before);
    before = value;
    out[window + i] = light;
  }
  return out;
}

/** Weight of a threshold of so many hundredths: a beta distribution of mean 0.15. */
const thresholdWeights = ((): Float64Array => {
  const weights = Float64Array.from({ length: 100 }, (_, k) => {
    const x = (k + 0.5) / 100;
    return x * (1 - x) ** 10.33;
  });
  const sum = weights.reduce((a, b) => a + b, 0);
  return weights.map((value) => value / sum);
})();

/** What a frame is worked out in, in the memory of the kernels. */
const scratch = keptOnce(() => ({
  piece: new KernelNumbers(2 * window),
  correlation: new KernelNumbers(transform),
  differences: new KernelNumbers(longestLag),
  head: new KernelNumbers(transform),
  whole: new KernelNumbers(transform),
}));

function frameCandidates(signal: Float32Array, start: number, rateHz: number): { candidates: Candidate[]; level: number } {
  const work = scratch(),
    piece = signal.subarray(start, start + 2 * window);
  work.piece.view.set(piece);
  correlate(piece, work.head, work.whole, work.correlation);
  // Σ (x_j − x_{j+τ})² over the window, by the energies of both and their product.
  const energy = kernels().differences(work.piece.at, work.correlation.at, work.differences.at, window, longestLag, 1 / transform),
    level = Math.sqrt(energy / (2 * window)),
    differences = work.differences.view;
  if (level < 1e-5) return { candidates: [], level };
  // Each threshold chooses the first dip below it; a dip's weight is that of all thresholds that choose it.
  const candidates: Candidate[] = [];
  let reached = 1,
    shortest = Math.max(2, Math.floor(rateHz / 2100));
  while (shortest < longestLag - 1 && differences[shortest] > differences[shortest + 1] && shortest < 4) shortest++;
  for (let lag = shortest; lag < longestLag - 1; lag++) {
    const depth = differences[lag];
    if (depth >= reached || depth > differences[lag - 1] || depth >= differences[lag + 1]) continue;
    let weight = 0;
    for (let k = Math.ceil(depth * 100), to = Math.min(100, Math.ceil(reached * 100)); k < to; k++) weight += thresholdWeights[k];
    reached = depth;
    // The bottom of a dip is the top of the same upside down.
    const exact = lag + topOffset(-differences[lag - 1], -depth, -differences[lag + 1]),
      note = hzToNote(rateHz / exact),
      state = Math.round((note - lowestNote) * binsPerNote);
    if (weight > 0.001 && state >= 0 && state < voicedStates) candidates.push({ state, note, weight });
  }
  return { candidates, level };
}

/** `correlation[lag]` = Σ x_j · x_{j+lag} for j inside the first half of `piece`, times the size of the transform, by way of the spectrum. */
function correlate(piece: Float32Array, head: KernelNumbers, whole: KernelNumbers, correlation: KernelNumbers): void {
  const fft = realFft(transform);
  fft.time.set(piece.subarray(0, window));
  fft.time.fill(0, window);
  fft.forward();
  head.view.set(fft.spectrum);
  fft.time.set(piece);
  fft.forward();
  whole.view.set(fft.spectrum);
  // The last lags wrap round by design: the head ends at half the transform, so lags up to `window` are free of it.
  kernels().conjugateProduct(head.at, whole.at, transform);
  fft.spectrum.set(whole.view);
  fft.inverse();
  correlation.view.set(fft.time);
}

const leapCost = 6.5,
  stepCost = 0.35,
  onOffCost = 3.2,
  /** A frame without a clear dip says little: attacks of plucked notes have none. */
  unvoicedTrust = 0.35;

/** Viterbi over a few candidates a frame and one state of silence: staying near is cheap, leaping costs the same however far. */
function likeliestPath(found: readonly Candidate[][]): Float32Array {
  const from: Int16Array[] = [];
  let before: { notes: number[]; costs: number[] } = { notes: [0], costs: [0] };
  for (const candidates of found) {
    const unvoiced = Math.max(0.02, unvoicedTrust * (1 - candidates.reduce((sum, { weight }) => sum + weight, 0))),
      notes = [0, ...candidates.map(({ note }) => note)],
      costs: number[] = [],
      back = new Int16Array(notes.length);
    notes.forEach((note, k) => {
      let best = Infinity;
      before.notes.forEach((earlier, j) => {
        const move =
          note === 0 || earlier === 0
            ? note === earlier
              ? 0
              : onOffCost
            : Math.min(leapCost, stepCost * Math.abs(note - earlier) * binsPerNote);
        if (before.costs[j] + move < best) {
          best = before.costs[j] + move;
          back[k] = j;
        }
      });
      costs.push(best - Math.log(k === 0 ? unvoiced : Math.max(1e-3, candidates[k - 1].weight)));
    });
    from.push(back);
    before = { notes, costs };
  }
  const path = new Float32Array(found.length);
  let at = before.costs.indexOf(Math.min(...before.costs));
  for (let frame = found.length - 1; frame >= 0; frame--) {
    path[frame] = at === 0 ? 0 : found[frame][at - 1].note;
    at = from[frame][at];
  }
  return path;
}
