import { beatsToSeconds } from '../../units/time';
import { lowestNote, noteCount, type NoteFrames } from '../notes/note-fit';
import { barBeatsOf, type RhythmCandidate } from './candidates';

/** What these features need of a sound beside the candidate. */
export interface SharedGridFeatures {
  /** Times of clear onsets and their strengths. */
  readonly onsetSeconds: readonly number[];
  readonly onsetStrengths: readonly number[];
  /** Seconds between onsets that are told apart, see `gapsBetween`, the shortest first. */
  readonly gapSeconds: readonly number[];
  /** How much the notes below E3 change at each tone frame, 0–1, and the mean. */
  readonly lowChange: Float32Array;
  readonly lowChangeMean: number;
  readonly noteLikeness: NoteLikeness;
  readonly noteHopSeconds: number;
  readonly heardSeconds: number;
}

const squash = (value: number): number => Math.log1p(Math.max(0, value));

export const gridFeatureCount = 23;

/** How onsets lie on a candidate's grid, how far apart they are in beats, and where bass and harmony turn. */
export function gridFeatures(shared: SharedGridFeatures, candidate: RhythmCandidate): number[] {
  const beat = beatsToSeconds(1, candidate.tempoBpm),
    bar = barBeatsOf(candidate) * beat,
    endSeconds = candidate.startSeconds + candidate.bars * bar;
  return [
    ...offGrids(shared, candidate.startSeconds, endSeconds, beat),
    ...gapsInBeats(shared.gapSeconds, beat),
    ...[bar / 2, bar, 2 * bar].map((lag) => shared.noteLikeness.at(lag)),
    ...[
      [bar, 0],
      [bar, bar / 2],
      [beat, 0],
      [2 * bar, bar],
    ].map(([step, offset]) => turnsAt(shared, candidate.startSeconds + offset, step, endSeconds)),
  ];
}

/** Lines a beat of the grids that onsets are held against. */
const linesPerBeat = [2, 3, 4, 6] as const;

/**
 * For each grid the mean distance of onsets from its lines, and how far they drift from it over the whole: a tempo that is a little off drifts.
 * All grids in one pass: this is asked of every candidate, with every onset.
 */
function offGrids({ onsetSeconds, onsetStrengths }: SharedGridFeatures, start: number, end: number, beat: number): number[] {
  const grids = linesPerBeat.map((per) => ({ cell: beat / per, away: 0, d1: 0, td: 0 }));
  let weights = 1e-9,
    t1 = 0,
    t2 = 0;
  for (let k = 0; k < onsetSeconds.length; k++) {
    const seconds = onsetSeconds[k];
    if (seconds < start - 0.03 || seconds > end + 0.03) continue;
    const weight = onsetStrengths[k],
      t = seconds - start,
      weightedTime = weight * t;
    weights += weight;
    t1 += weightedTime;
    t2 += weightedTime * t;
    for (const grid of grids) {
      const place = t / grid.cell,
        distance = (place - Math.round(place)) * grid.cell;
      grid.away += weight * Math.abs(distance);
      grid.d1 += weight * distance;
      grid.td += weightedTime * distance;
    }
  }
  const spread = t2 / weights - (t1 / weights) ** 2;
  return grids.flatMap(({ away, d1, td }) => {
    const slope = spread > 1e-4 ? (td / weights - (t1 / weights) * (d1 / weights)) / spread : 0;
    return [squash(away / weights / 0.008), squash(Math.abs(slope * (end - start)) / 0.01)];
  });
}

const gapBeats = [1 / 4, 1 / 3, 1 / 2, 2 / 3, 1, 3 / 2, 2];

/** Gaps between onsets at least 50 ms apart, sorted. */
export function gapsBetween(onsetSeconds: readonly number[]): number[] {
  const gaps: number[] = [];
  let last = -1;
  for (const seconds of onsetSeconds) {
    if (last >= 0 && seconds - last < 0.05) continue;
    if (last >= 0) gaps.push(seconds - last);
    last = seconds;
  }
  return gaps.sort((a, b) => a - b);
}

/** Median gap between onsets as octaves of a beat, and the shares of gaps near usual parts of a beat. */
function gapsInBeats(gapSeconds: readonly number[], beat: number): number[] {
  const count = gapSeconds.length;
  if (!count) return [2, ...gapBeats.map(() => 0)];
  const near = new Array<number>(gapBeats.length).fill(0);
  for (let gap = 0; gap < count; gap++) {
    const beats = gapSeconds[gap] / beat;
    for (let k = 0; k < gapBeats.length; k++) if (Math.abs(beats / gapBeats[k] - 1) < 0.14) near[k]++;
  }
  return [Math.max(-3, Math.min(3, Math.log2(gapSeconds[Math.floor(count / 2)] / beat))), ...near.map((found) => found / count)];
}

/** Mean change of the bass at the lines of a grid, against its mean everywhere. */
function turnsAt(
  { lowChange, lowChangeMean, noteHopSeconds, heardSeconds }: SharedGridFeatures,
  from: number,
  step: number,
  end: number,
): number {
  let sum = 0,
    count = 0;
  // The very beginning is no turn.
  for (let seconds = from < 0.05 ? from + step : from; seconds < Math.min(end, heardSeconds) - 0.05; seconds += step) {
    const frame = Math.round(seconds / noteHopSeconds);
    if (frame < 1 || frame >= lowChange.length) continue;
    sum += Math.max(lowChange[frame], lowChange[frame - 1] * 0.8, (lowChange[frame + 1] ?? 0) * 0.8);
    count++;
  }
  return count ? sum / count - lowChangeMean : 0;
}

/** How alike the notes are to those some time later: the mean cosine of pitch classes; each lag is worked out once. */
export class NoteLikeness {
  private readonly known = new Map<number, number>();
  private readonly classes: Float32Array;

  constructor(private readonly notes: NoteFrames) {
    const { frameCount, strengths } = notes;
    this.classes = new Float32Array(frameCount * 12);
    for (let frame = 0; frame < frameCount; frame++) {
      let sum = 0;
      for (let note = 0; note < noteCount; note++)
        this.classes[frame * 12 + ((lowestNote + note) % 12)] += strengths[frame * noteCount + note];
      for (let k = 0; k < 12; k++) sum += this.classes[frame * 12 + k] ** 2;
      // Silence is like nothing.
      const scale = sum > 1e-4 ? 1 / Math.sqrt(sum) : 0;
      for (let k = 0; k < 12; k++) this.classes[frame * 12 + k] *= scale;
    }
  }

  /** 0–1; 0 when the sound is not that long. */
  at(lagSeconds: number): number {
    const lag = Math.round(lagSeconds / this.notes.hopSeconds);
    let found = this.known.get(lag);
    if (found === undefined) {
      const count = this.notes.frameCount - lag;
      let sum = 0;
      for (let i = 0; i < count * 12; i++) sum += this.classes[i] * this.classes[i + lag * 12];
      found = count >= 2 ? sum / count : 0;
      this.known.set(lag, found);
    }
    return found;
  }
}
