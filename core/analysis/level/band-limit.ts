import { powerToDb } from '../../units/level';
import { powerFrames } from '../../dsp/spectrogram';

const size = 2048,
  hop = 8192,
  bandBins = 8,
  /** A lossy encoder's low-pass falls this far within three bands (about 500 Hz at 44.1 kHz); instruments and rooms never do. */
  fallDb = 25,
  lowestHz = 9000;

/**
 * Where the spectrum ends as if cut: the look of lossy encoding, of which a lower rate of sampling is a kin. The mean spectrum in bands of
 * 172 Hz has to be lively for 2 kHz below the edge and to stay down above it. Common practice, the threshold from memory.
 * @returns the edge in Hz, null where the spectrum fades as sounds do
 */
export function bandLimitHz(mono: Float32Array, sampleRateHz: number): number | null {
  const bands = size / 2 / bandBins,
    sums = new Float64Array(bands);
  powerFrames(mono, size, hop, size / 2, (_, power) => {
    for (let band = 0; band < bands; band++) for (let k = band * bandBins; k < (band + 1) * bandBins; k++) sums[band] += power[k];
  });
  const loudest = sums.reduce((a, b) => Math.max(a, b), 0);
  if (loudest <= 1e-12) return null;
  const levels = Array.from(sums, (power) => powerToDb(power / loudest + 1e-14)),
    bandHz = (sampleRateHz / size) * bandBins,
    below = Math.round(2000 / bandHz);
  for (let edge = bands - 6; edge * bandHz >= lowestHz; edge--) {
    const under = levels.slice(edge - below, edge).sort((a, b) => a - b)[Math.floor(below / 2)],
      over = Math.max(...levels.slice(edge + 3));
    if (under > -75 && Math.min(levels[edge - 1], under) - over > fallDb) return Math.round((edge * bandHz) / 100) * 100;
  }
  return null;
}
