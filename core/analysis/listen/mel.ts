import { KernelNumbers, kernels } from '../../dsp/kernels/kernels';
import { powerFrames } from '../../dsp/spectrogram';
import { keptByKey } from '../../kept/kept';

/** Levels in 40 bands over time, as an ear hears them; what feeds onsets and timbre. */
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

const size = 1024,
  hop = 256,
  bins = size / 2 + 1;

/** First bin and number of bins of each band, and the shares of all after each other, where the kernels find them. */
const bandWeights = keptByKey((sampleRateHz: number) => {
  const edges = Array.from(
      { length: melBands + 2 },
      (_, k) => (toHz(toMel(lowestHz) + (k / (melBands + 1)) * (toMel(highestHz) - toMel(lowestHz))) * size) / sampleRateHz,
    ),
    places: number[] = [],
    shares: number[] = [];
  for (let band = 0; band < melBands; band++) {
    const [low, centre, high] = [edges[band], edges[band + 1], edges[band + 2]],
      first = Math.max(1, Math.ceil(low)),
      list: number[] = [];
    for (let bin = first; bin <= Math.min(bins - 1, Math.floor(high)); bin++)
      list.push(bin < centre ? (bin - low) / (centre - low) : (high - bin) / (high - centre));
    // Narrow low bands may hold no bin at all: the nearest one serves.
    if (list.length === 0) {
      places.push(Math.min(bins - 1, Math.max(1, Math.round(centre))), 1);
      shares.push(1);
      continue;
    }
    const sum = list.reduce((total, weight) => total + weight, 0) || 1;
    places.push(first, list.length);
    shares.push(...list.map((weight) => weight / sum));
  }
  return {
    // Whole numbers, in the same memory.
    bands: KernelNumbers.of(new Float32Array(Uint32Array.from(places).buffer)),
    shares: KernelNumbers.of(shares),
    out: new KernelNumbers(melBands),
  };
});

/**
 * Mel bands (triangles on the scale of O'Shaughnessy 1987) of frames of 1024 at 44.1 kHz, a frame every 256.
 * @param gain what scales the sound's peak to 1
 */
export function melFrames(mono: Float32Array, sampleRateHz: number, gain: number): MelFrames {
  const { bands, shares, out } = bandWeights(sampleRateHz),
    { bandSums } = kernels(),
    frameCount = Math.max(1, Math.ceil(mono.length / hop)),
    levels = new Float32Array(frameCount * melBands),
    power = new Float32Array(frameCount * melBands);
  powerFrames(mono, size, hop, bins, (frame, _, place) => {
    bandSums(place, bands.at, shares.at, out.at, melBands, gain * gain);
    power.set(out.view, frame * melBands);
  });
  for (let k = 0; k < levels.length; k++) levels[k] = Math.log10(1 + 1e5 * power[k]);
  return { hopSeconds: hop / sampleRateHz, frameCount, levels, power };
}
