import { powerFrames } from '../../dsp/spectrogram';

/** Levels in 40 bands over time, as an ear hears them; the ground of onsets and timbre. */
export interface MelFrames {
  readonly hopSeconds: number;
  readonly frameCount: number;
  /** `levels[frame × melBands + band]`: log₁₀(1 + 10⁴ · power), 0 for silence; the sound scaled to peak 1 beforehand. */
  readonly levels: Float32Array;
  /** Power of each frame in each band, before the logarithm. */
  readonly power: Float32Array;
}

export const melBands = 40;
const lowestHz = 30,
  highestHz = 16000;

const toMel = (hz: number): number => 2595 * Math.log10(1 + hz / 700);
const toHz = (mel: number): number => 700 * (10 ** (mel / 2595) - 1);

/** Centre of a band in Hz. */
export const bandCentreHz = (band: number): number =>
  toHz(toMel(lowestHz) + ((band + 1) / (melBands + 1)) * (toMel(highestHz) - toMel(lowestHz)));

/**
 * Mel bands (triangles on the scale of O'Shaughnessy 1987) of frames of 1024 at 44.1 kHz, a frame every 256.
 * @param gain what scales the sound's peak to 1
 */
export function melFrames(mono: Float32Array, sampleRateHz: number, gain: number): MelFrames {
  const size = 1024,
    hop = 256,
    bins = size / 2 + 1;
  const edges = Array.from(
    { length: melBands + 2 },
    (_, k) => (toHz(toMel(lowestHz) + (k / (melBands + 1)) * (toMel(highestHz) - toMel(lowestHz))) * size) / sampleRateHz,
  );
  // Each band's bins are neighbours: first bin, and the shares of it and the next.
  const weights = Array.from({ length: melBands }, (_, band) => {
    const [low, centre, high] = [edges[band], edges[band + 1], edges[band + 2]];
    const first = Math.max(1, Math.ceil(low)),
      list: number[] = [];
    for (let bin = first; bin <= Math.min(bins - 1, Math.floor(high)); bin++)
      list.push(bin < centre ? (bin - low) / (centre - low) : (high - bin) / (high - centre));
    // Narrow low bands may hold no bin at all: the nearest one serves.
    if (list.length === 0) return { first: Math.min(bins - 1, Math.max(1, Math.round(centre))), shares: Float32Array.of(1) };
    const sum = list.reduce((total, weight) => total + weight, 0) || 1;
    return { first, shares: Float32Array.from(list, (weight) => weight / sum) };
  });
  const frameCount = Math.max(1, Math.ceil(mono.length / hop)),
    levels = new Float32Array(frameCount * melBands),
    power = new Float32Array(frameCount * melBands);
  const square = gain * gain;
  powerFrames(mono, size, hop, bins, (frame, spectrum) => {
    for (let band = 0; band < melBands; band++) {
      const { first, shares } = weights[band];
      let sum = 0;
      for (let k = 0; k < shares.length; k++) sum += spectrum[first + k] * shares[k];
      const at = frame * melBands + band;
      power[at] = sum * square;
      levels[at] = Math.log10(1 + 1e5 * power[at]);
    }
  });
  return { hopSeconds: hop / sampleRateHz, frameCount, levels, power };
}
