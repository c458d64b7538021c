import type { Candidate, LoopKind } from '../facts';
import type { MusicRegion } from '../tempo/music-region';

export interface KindMeasures {
  readonly region: MusicRegion;
  readonly onsetCount: number;
  /** Probability of the best length candidate before scaling: how well whole bars at a whole tempo fit. */
  readonly barFit: number;
  /** Level of the last 5 % relative to the loudest 5 %, in dB. */
  readonly endLevelDb: number;
  readonly pitched: boolean;
}

/** Loop, one-shot or phrase from the sound's shape alone. Rules by common practice, first version. */
export function estimateKind({ region, onsetCount, barFit, endLevelDb }: KindMeasures): Candidate<LoopKind>[] {
  const seconds = region.soundEndSeconds - region.leadSeconds;
  let loop = 0.5,
    oneShot = 0.2,
    phrase = 0.2;
  if (seconds <= 0.05) return [{ value: 'one-shot', probability: 0.6 }];
  if (onsetCount <= 1) {
    loop *= 0.25;
    oneShot *= seconds < 3.5 ? 4 : 0.8;
    phrase *= seconds > 3 ? 2 : 0.6;
  }
  if (onsetCount >= 4) {
    loop *= 2.2;
    oneShot *= 0.08;
  }
  if (seconds < 1) {
    loop *= 0.25;
    phrase *= 0.3;
    oneShot *= 2;
  }
  if (seconds > 4) oneShot *= 0.1;
  loop *= barFit >= 1 ? 2.6 : 0.5;
  if (endLevelDb < -40) {
    loop *= onsetCount >= 4 ? 0.9 : 0.45;
    oneShot *= 1.3;
  }
  const total = loop + oneShot + phrase;
  return [
    { value: 'loop' as const, probability: loop / total },
    { value: 'one-shot' as const, probability: oneShot / total },
    { value: 'phrase' as const, probability: phrase / total },
  ].sort((a, b) => b.probability - a.probability);
}

/** Level of the end against the loudest twentieth, in dB; −120 for silence. */
export function endLevelDb(mono: Float32Array): number {
  const parts = 20,
    length = Math.floor(mono.length / parts);
  if (length === 0) return -120;
  const energies = Array.from({ length: parts }, (_, part) => {
    let sum = 0;
    for (let i = part * length; i < (part + 1) * length; i++) sum += mono[i] * mono[i];
    return sum / length;
  });
  const loudest = Math.max(...energies);
  return loudest === 0 ? -120 : 10 * Math.log10((energies[parts - 1] + loudest * 1e-12) / loudest);
}
