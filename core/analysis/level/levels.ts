import { LevelMeter, type Levels } from './level-meter';

export type { Levels };

/** All levels of a sound that is there as a whole; one shorter than 3 s is measured as it sounds when it repeats. */
export function measureLevels(channels: readonly Float32Array[], sampleRateHz: number): Levels {
  const meter = new LevelMeter(channels.length, sampleRateHz);
  meter.push(channels);
  return meter.finish((channels[0]?.length ?? 0) < 3 * sampleRateHz ? channels : null);
}
