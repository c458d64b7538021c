import { dbToRatio } from '../../units/level';
import { toMono } from '../../dsp/spectrogram';

export interface MusicRegion {
  /** Silence before the first sound. */
  readonly leadSeconds: number;
  /** Where the sound falls below the floor for good. */
  readonly soundEndSeconds: number;
  readonly fileSeconds: number;
}

const floorDb = -54;

/** Where the sound is, 54 dB below its peak counting as silence. Silence as a whole gives 0 and 0. */
export function musicRegion(channels: readonly Float32Array[], sampleRateHz: number): MusicRegion {
  const mono = toMono(channels);
  let peak = 0;
  for (const sample of mono) {
    const size = Math.abs(sample);
    if (size > peak) peak = size;
  }
  const floor = peak * dbToRatio(floorDb);
  const fileSeconds = mono.length / sampleRateHz;
  if (peak === 0) return { leadSeconds: 0, soundEndSeconds: 0, fileSeconds };
  let first = 0,
    last = mono.length - 1;
  while (first < mono.length && Math.abs(mono[first]) < floor) first++;
  while (last > first && Math.abs(mono[last]) < floor) last--;
  return { leadSeconds: first / sampleRateHz, soundEndSeconds: (last + 1) / sampleRateHz, fileSeconds };
}
