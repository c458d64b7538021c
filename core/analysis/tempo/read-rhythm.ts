import type { Heard } from '../listen/hear';
import { rankingLogits, softmax } from '../learned/network';
import { model } from '../learned/models';
import { measurePulse, meterBeats, rhythmCandidates, type Pulse, type RhythmCandidate } from './candidates';
import { rhythmFeatureCount, rhythmFeatures, rhythmGround, type RhythmGround } from './candidate-features';

/** A ranked reading of a loop's rhythm. */
export interface Reading {
  readonly tempoBpm: number;
  readonly beats: number;
  readonly bars: number;
  readonly meter: RhythmCandidate['meter'];
  /** Where bar 1 begins, seconds of the file. */
  readonly startSeconds: number;
  readonly probability: number;
}

export interface Rhythm {
  readonly readings: readonly Reading[];
  readonly pulse: Pulse;
  readonly ground: RhythmGround;
}

const sameTempo = (a: number, b: number): boolean => Math.abs(a / b - 1) < 0.004;

/**
 * All readings of a loop with their probabilities, the likeliest first. Candidates from length, pulse and the tempos that names state
 * are ranked by what is heard alone: whether a name is believed is for the fusion to say. `familyChances` are those of the family model,
 * in its order: players of pads and of drums mean other tempos.
 */
export function readRhythm(heard: Heard, namedTempos: readonly number[], familyChances: ArrayLike<number>): Rhythm {
  const pulse = measurePulse(heard.onsets),
    ground = rhythmGround(heard, pulse),
    candidates = rhythmCandidates(heard, pulse, ground.releases, namedTempos, ground);
  if (!candidates.length) return { readings: [], pulse, ground };
  const scores = softmax(
    rankingLogits(model('rhythm'), candidates.length, (candidate, row) => {
      row.set(rhythmFeatures(ground, candidates[candidate]));
      row.set(familyChances, rhythmFeatureCount);
    }),
  );
  const readings = candidates
    .map(({ tempoBpm, bars, meter, startSeconds }, k) => ({
      tempoBpm,
      beats: bars * meterBeats[meter],
      bars,
      meter,
      startSeconds,
      probability: scores[k],
    }))
    .sort((a, b) => b.probability - a.probability);
  return { readings, pulse, ground };
}

/** Readings gathered by tempo (within 0.4 %); the value is that of the likeliest among them. */
export function temposOf(readings: readonly Reading[]): { value: number; probability: number }[] {
  const groups: { value: number; probability: number }[] = [];
  for (const { tempoBpm, probability } of readings) {
    const group = groups.find(({ value }) => sameTempo(value, tempoBpm));
    if (group) group.probability += probability;
    else groups.push({ value: tempoBpm, probability });
  }
  return groups.sort((a, b) => b.probability - a.probability);
}

/** The likeliest reading at a tempo that was settled by other means too. */
export const readingAt = (readings: readonly Reading[], tempoBpm: number): Reading | null =>
  readings.find((each) => sameTempo(each.tempoBpm, tempoBpm)) ?? null;
