import { EnvelopeFinder } from './envelope';
import type { TimeMap } from './time-map';
import { frameSize, stretchTonal, type SpectrumFilter, type VocoderSetting } from './vocoder';

const setting: VocoderSetting = { size: 2048, overlap: 4 },
  /** 40 dB: an envelope's valleys are not lifted farther. */
  mostNepers = 4.6;

/**
 * For a voice, and whatever has a body of its own: the vocoder with the spectral envelope moved, so that after resampling by `pitchRatio`
 * the formants lie `formantRatio` times as high as they were. With 1 the pitch moves and the character stays.
 */
export function stretchVoice(
  cycle: readonly Float32Array[],
  map: TimeMap,
  pitchRatio: number,
  formantRatio: number,
  sampleRateHz: number,
): Float32Array[] {
  const scale = pitchRatio / formantRatio;
  if (Math.abs(scale - 1) < 1e-6) return stretchTonal(cycle, map, setting);
  const size = frameSize(setting.size, map.targetFrames),
    finder = new EnvelopeFinder(size, sampleRateHz),
    last = size / 2;
  const filter: SpectrumFilter = (spectra) => {
    const envelope = finder.find(spectra);
    for (let k = 1; k < last; k++) {
      const at = Math.min(last - 1, k * scale),
        below = Math.floor(at),
        wanted = envelope[below] + (envelope[below + 1] - envelope[below]) * (at - below),
        gain = Math.exp(Math.max(-mostNepers, Math.min(mostNepers, wanted - envelope[k])));
      for (const spectrum of spectra) {
        spectrum[2 * k] *= gain;
        spectrum[2 * k + 1] *= gain;
      }
    }
  };
  return atLevelOf(cycle, stretchTonal(cycle, map, { ...setting, size, filter }));
}

/** What was made, brought to the mean level of the source: where partials move under an envelope, all of them may grow or fade. In place. */
export function atLevelOf(source: readonly Float32Array[], made: Float32Array[]): Float32Array[] {
  const power = (planes: readonly Float32Array[]) =>
      planes.reduce((sum, plane) => sum + plane.reduce((energy, value) => energy + value * value, 0) / plane.length, 0),
    [wanted, found] = [power(source), power(made)];
  if (!(wanted > 0 && found > 0)) return made;
  const gainRatio = Math.sqrt(wanted / found);
  for (const plane of made) for (let i = 0; i < plane.length; i++) plane[i] *= gainRatio;
  return made;
}
