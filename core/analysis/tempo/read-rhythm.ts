import type { Heard } from '../listen/hear';
import { rankingLogits, softmax } from '../learned/network';
import { model } from '../learned/models';
import { barBeatsOf, measurePulse, rhythmCandidates, type Pulse, type RhythmCandidate } from './candidates';
import { rhythmFeatureCount, rhythmFeatures, sharedRhythmFeatures, type SharedRhythmFeatures } from './candidate-features';
import { oddReadings, usualRow } from './odd-bars';

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
  readonly shared: SharedRhythmFeatures;
}

const sameTempo = (a: number, b: number): boolean => Math.abs(a / b - 1) < 0.004;

/**
 * All readings of a loop with their probabilities, the likeliest first. Candidates from length, pulse and the tempos that names state
 * are ranked by what is heard alone: whether a name is believed is for the fusion to say. `familyChances` are those of the family model,
 * in its order: players of pads and of drums mean other tempos.
 */
export function readRhythm(heard: Heard, namedTempos: readonly number[], familyChances: ArrayLike<number>): Rhythm {
  const pulse = measurePulse(heard.onsets),
    shared = sharedRhythmFeatures(heard, pulse),
    candidates = rhythmCandidates(heard, pulse, shared.releases, namedTempos, shared.tempos);
  if (!candidates.length) return { readings: [], pulse, shared };
  const rank = rhythmRanking(shared, familyChances),
    logits = rank(candidates),
    scores = softmax(logits),
    odd = oddReadings(heard, shared, { candidates, logits }, rank, namedTempos),
    [usual, ...oddScores] = oddChances(odd.map(({ features }) => features));
  const readings = [
    ...candidates.map((candidate, k) => readingOf(candidate, usual * scores[k])),
    ...odd.map(({ candidate }, k) => readingOf(candidate, oddScores[k])),
  ].sort((a, b) => b.probability - a.probability);
  return { readings, pulse, shared };
}

/** How the networks rank readings of a sound: logits, in the order of the candidates. */
export const rhythmRanking =
  (shared: SharedRhythmFeatures, familyChances: ArrayLike<number>) =>
  (candidates: readonly RhythmCandidate[]): Float32Array =>
    rankingLogits(model('rhythm'), candidates.length, (candidate, row) => {
      row.set(rhythmFeatures(shared, candidates[candidate]));
      row.set(familyChances, rhythmFeatureCount);
    });

function readingOf(candidate: RhythmCandidate, probability: number): Reading {
  const { tempoBpm, bars, meter, startSeconds } = candidate;
  return { tempoBpm, beats: bars * barBeatsOf(candidate), bars, meter, startSeconds, probability };
}

/** So many loops are in no usual meter (from memory of common practice), and so many of those that the networks learned from. */
const oddShare = 0.07,
  oddShareLearned = 0.33;
const rarer = Math.log(oddShare / (1 - oddShare)) - Math.log(oddShareLearned / (1 - oddShareLearned));

/** How likely the meter is a usual one, then each of the odd readings; by Bayes' rule for as many as there are. */
function oddChances(rows: readonly (readonly number[])[]): number[] {
  if (!rows.length) return [1];
  const logits = rankingLogits(model('meter'), rows.length + 1, (k, row) => row.set(k === 0 ? usualRow : rows[k - 1]));
  return [...softmax(logits.map((logit, k) => (k === 0 ? logit : logit + rarer)))];
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
