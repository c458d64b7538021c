import { beatsPerBar, secondsToBeats, tempoFromLength } from '../../units/time';

export interface LengthCandidate {
  readonly tempoBpm: number;
  readonly beats: number;
  readonly bars: number;
  readonly meter: string;
  readonly probability: number;
}

const barChances: readonly (readonly [number, number])[] = [
  [1, 0.12],
  [2, 0.26],
  [4, 0.32],
  [8, 0.16],
  [16, 0.05],
  [3, 0.02],
  [6, 0.02],
  [12, 0.02],
];
const meterChances: readonly (readonly [string, number])[] = [
  ['4/4', 0.9],
  ['3/4', 0.06],
  ['6/8', 0.04],
];
const lowestBpm = 52,
  highestBpm = 190;

/** How usual a tempo is: log-normal around 112. From memory of common practice, not fitted. */
export function tempoPrior(tempoBpm: number): number {
  return Math.exp(-((Math.log(tempoBpm / 112) / 0.33) ** 2) / 2);
}

/** 1 when the length is within its own precision of a whole tempo, 0.5 near a half, else less. */
export function wholeness(tempoBpm: number, seconds: number): number {
  // A millisecond of cut at either end moves the tempo by this much.
  const toleranceBpm = Math.max(0.02, (tempoBpm * 0.001) / seconds);
  if (Math.abs(tempoBpm - Math.round(tempoBpm)) < toleranceBpm) return 1;
  return Math.abs(tempoBpm * 2 - Math.round(tempoBpm * 2)) < toleranceBpm * 2 ? 0.3 : 0.12;
}

/** Every tempo at which a whole number of bars fills `seconds`, most likely first; probabilities sum to 1. Empty for no length. */
export function lengthCandidates(seconds: number): LengthCandidate[] {
  if (!(seconds > 0.2)) return [];
  const found: LengthCandidate[] = [];
  for (const [meter, meterChance] of meterChances)
    for (const [bars, barChance] of barChances) {
      const beats = bars * beatsPerBar(meter);
      const tempoBpm = tempoFromLength(beats, seconds);
      if (tempoBpm < lowestBpm || tempoBpm > highestBpm) continue;
      found.push({
        tempoBpm,
        beats,
        bars,
        meter,
        probability: meterChance * barChance * tempoPrior(tempoBpm) * wholeness(tempoBpm, seconds),
      });
    }
  const total = found.reduce((sum, each) => sum + each.probability, 0);
  return found.map((each) => ({ ...each, probability: each.probability / total })).sort((a, b) => b.probability - a.probability);
}

/**
 * Beats of a loop once its tempo is known: whole bars that fit the length best; what is left over is a tail (or missing).
 * `confidence` falls with the distance from whole bars. @example beatsFromTempo(120, 8.02, '4/4') // => { beats: 16, confidence: 0.97… }
 */
export function beatsFromTempo(tempoBpm: number, seconds: number, meter: string): { beats: number; confidence: number } {
  const barBeats = beatsPerBar(meter);
  const exactBars = secondsToBeats(seconds, tempoBpm) / barBeats;
  const near = Math.round(exactBars);
  if (near >= 1 && Math.abs(exactBars - near) * barBeats < 0.15)
    return { beats: near * barBeats, confidence: 0.98 - Math.abs(exactBars - near) * barBeats };
  if (exactBars < 1) return { beats: Math.max(1, Math.round(exactBars * barBeats)), confidence: 0.5 };
  // A tail past the last bar: the longest usual count that is filled.
  const bars = [16, 12, 8, 6, 4, 3, 2, 1].find((each) => each <= exactBars + 0.03) ?? Math.floor(exactBars);
  return { beats: (exactBars > 17 ? Math.floor(exactBars) : bars) * barBeats, confidence: 0.7 };
}
