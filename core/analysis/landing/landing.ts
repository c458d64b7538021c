import { powerToDb } from '../../units/level';

const hopSeconds = 0.01,
  /** What rises does so for longer than any attack. */
  leastRiseSeconds = 0.4,
  /** A rise is at least so much louder in its last third than in its first. */
  leastRiseDb = 5,
  /** Where it has fallen this far below its top it is over. */
  overDb = 9;

/** Where a sound lands: what one wants to have on a line of the piece. */
export interface Landing {
  readonly seconds: number;
  /** Whether it rises up to there, or strikes there. */
  readonly way: 'rises' | 'strikes';
  readonly probability: number;
}

/** Power by hops of a hundredth of a second, smoothed over three. */
function levelsOf(mono: Float32Array, sampleRateHz: number): number[] {
  const hop = Math.max(1, Math.round(hopSeconds * sampleRateHz)),
    powers = Array.from({ length: Math.floor(mono.length / hop) }, (_, k) => {
      let sum = 0;
      for (let i = k * hop; i < (k + 1) * hop; i++) sum += mono[i] * mono[i];
      return sum / hop;
    });
  return powers.map((power, k) => (power + (powers[k - 1] ?? power) + (powers[k + 1] ?? power)) / 3);
}

const meanDb = (powers: readonly number[]): number =>
  powerToDb(powers.reduce((sum, power) => sum + power, 0) / Math.max(1, powers.length) + 1e-12);

/**
 * Where a sound that plays once lands: one that rises, where its rise ends; any other, at the strongest of its attacks. By the level alone, from
 * common practice: a riser is cut or falls away where it has reached its top.
 * @param mono of any level
 * @returns null for silence
 */
export function landingOf(mono: Float32Array, sampleRateHz: number): Landing | null {
  const powers = levelsOf(mono, sampleRateHz),
    top = powers.reduce((most, power) => Math.max(most, power), 0);
  if (top <= 1e-10) return null;
  const sounding = (power: number) => power > top * 1e-4,
    first = powers.findIndex(sounding),
    loud = (power: number) => power > top * 10 ** (-overDb / 10),
    // The last moment that is near the top: behind it the sound is over, or only rings.
    over = powers.findLastIndex(loud) + 1,
    rise = powers.slice(first, over),
    third = Math.floor(rise.length / 3);
  if (rise.length * hopSeconds >= leastRiseSeconds && third > 0) {
    const [low, middle, high] = [0, 1, 2].map((k) => meanDb(rise.slice(k * third, (k + 1) * third)));
    // Step by step: what is soft and then suddenly loud strikes.
    if (high - low >= leastRiseDb && middle - low > (high - low) * 0.15 && high > middle - 1)
      return { seconds: over * hopSeconds, way: 'rises', probability: Math.min(0.9, 0.5 + (high - low) / 40) };
  }
  // The steepest step up that leads near the top.
  let strongest = first,
    most = 0;
  for (let k = first; k < powers.length; k++) {
    const step = powers[k] - (powers[k - 3] ?? 0);
    if (step > most) [strongest, most] = [k, step];
  }
  // The step is seen whole two hops after it began.
  return { seconds: Math.max(0, (strongest - 1) * hopSeconds), way: 'strikes', probability: 0.7 };
}
