import { beatsToSeconds, secondsToBeats, tempoFromLength } from '../../units/time';
import { autocorrelation } from '../../dsp/autocorrelation';
import { topOffset } from '../../dsp/parabola';
import type { Heard } from '../listen/hear';
import { allBand, type OnsetBands } from '../onsets/onset-bands';
import { periodByHits } from './hit-grid';
import type { Release } from './releases';

/** A reading of a loop: so many bars of a meter at a tempo, from a start. The work is to rank them. */
export interface RhythmCandidate {
  /** Beats of the meter a minute: dotted quarters in 6/8. */
  readonly tempoBpm: number;
  readonly bars: number;
  readonly meter: HeardMeter;
  /** Beats of a bar where the meter is unknown. */
  readonly barBeats?: number;
  readonly startSeconds: number;
  readonly source: 'length' | 'pulse' | 'release' | 'name';
}

export const meterBeats = { '4/4': 4, '3/4': 3, '6/8': 2 } as const;
export type KnownMeter = keyof typeof meterBeats;
/** Whether a meter is one of those that a reading of the rhythm can have. */
export const isKnownMeter = (meter: string): meter is KnownMeter => Object.hasOwn(meterBeats, meter);
/** `unknown`: bars come round, and in none of these meters. */
export type HeardMeter = KnownMeter | 'unknown';
/** Beats of a bar of a reading. */
export const barBeatsOf = ({ meter, barBeats }: Pick<RhythmCandidate, 'meter' | 'barBeats'>): number =>
  meter === 'unknown' ? (barBeats ?? 1) : meterBeats[meter];
const meters: readonly KnownMeter[] = ['4/4', '3/4', '6/8'];
export const barCounts = [1, 2, 3, 4, 6, 8, 12, 16] as const;
export const tempoRange = { low: 50, high: 196 } as const;

/** When something is struck, and how hard. */
export interface Hits {
  readonly onsetSeconds: readonly number[];
  readonly onsetStrengths: readonly number[];
}

/** How well the onsets repeat at each lag: all bands together, and each band. */
export interface Pulse {
  readonly hopSeconds: number;
  /** Normalised for the overlap and to 1 at lag 0. */
  readonly all: Float32Array;
  readonly low: Float32Array;
  readonly high: Float32Array;
}

/** How much a loop's onsets resemble themselves a while later: autocorrelation of the onset curves over lags up to 26 s, or the file's length. */
export function measurePulse({ bands, frameCount, hopSeconds }: OnsetBands): Pulse {
  const lags = Math.min(frameCount, Math.ceil(26 / hopSeconds));
  const curve = (values: Float32Array) => {
    const smooth = smear(values),
      raw = autocorrelation(smooth, lags),
      first = raw[0] / frameCount;
    return raw.map((value, lag) => (first > 0 ? value / Math.max(frameCount * 0.15, frameCount - lag) / first : 0));
  };
  return { hopSeconds, all: curve(bands[allBand]), low: curve(bands[0]), high: curve(bands[3]) };
}

/** A little width, so that human timing still meets itself. */
function smear(values: Float32Array): Float32Array {
  const out = new Float32Array(values.length);
  for (let i = 0; i < values.length; i++)
    out[i] =
      (values[i - 2] ?? 0) * 0.3 + (values[i - 1] ?? 0) * 0.75 + values[i] + (values[i + 1] ?? 0) * 0.75 + (values[i + 2] ?? 0) * 0.3;
  return out;
}

/** Value of a curve at a fractional lag. */
export function lagValue(curve: Float32Array, lag: number): number {
  const k = Math.floor(lag);
  if (k < 0 || k + 1 >= curve.length) return 0;
  return curve[k] + (curve[k + 1] - curve[k]) * (lag - k);
}

/** How strong the pulse is at a tempo: the curve summed over ½, 1, 2, 3 and 4 beats. */
function pulseStrength({ all, hopSeconds }: Pulse, tempoBpm: number): number {
  const lag = beatsToSeconds(1, tempoBpm) / hopSeconds;
  return (
    0.4 * lagValue(all, lag / 2) +
    lagValue(all, lag) +
    0.8 * lagValue(all, lag * 2) +
    0.4 * lagValue(all, lag * 3) +
    0.6 * lagValue(all, lag * 4)
  );
}

/** Beat periods where the pulse is strongest, peaks refined at the longest multiple that holds. */
export function pulsePeriods(pulse: Pulse, most: number): number[] {
  const { all, hopSeconds } = pulse;
  const grid: { period: number; strength: number }[] = [];
  for (let tempo: number = tempoRange.low; tempo <= tempoRange.high; tempo *= 1.004)
    grid.push({ period: beatsToSeconds(1, tempo), strength: pulseStrength(pulse, tempo) });
  return grid
    .filter(
      ({ strength }, k) =>
        k > 0 && k + 1 < grid.length && strength > 0.02 && strength >= grid[k - 1].strength && strength > grid[k + 1].strength,
    )
    .sort((a, b) => b.strength - a.strength)
    .slice(0, most)
    .map(({ period }) => refine(all, period, hopSeconds));
}

function refine(curve: Float32Array, period: number, hopSeconds: number): number {
  let best = period;
  for (const multiple of [1, 2, 4, 8, 16, 32]) {
    const lag = (best * multiple) / hopSeconds,
      reach = Math.max(1, Math.min(lag * 0.012, 8));
    if (lag + reach + 2 >= curve.length * 0.9) break;
    let peak = Math.round(lag),
      value = -Infinity;
    for (let k = Math.ceil(lag - reach); k <= Math.floor(lag + reach); k++)
      if (curve[k] > value) {
        value = curve[k];
        peak = k;
      }
    if (value < 0.08 || !(curve[peak] >= curve[peak - 1] && curve[peak] >= curve[peak + 1])) continue;
    best = ((peak + topOffset(curve[peak - 1], curve[peak], curve[peak + 1])) * hopSeconds) / multiple;
  }
  return best;
}

/** Starts and ends that the music may have in the file. */
export function spans({ span }: Pick<Heard, 'span'>): { starts: number[]; ends: number[] } {
  const starts = [0],
    ends = [span.fileSeconds];
  if (span.firstSoundSeconds > 0.002 && span.firstSoundSeconds < 1) starts.push(span.firstSoundSeconds);
  if (span.fileSeconds - span.lastSoundSeconds > 0.03) ends.push(span.lastSoundSeconds);
  return { starts, ends };
}

/** Last notes are let go at the bar line or a little before it, so that this much of a file may lie between. */
const earlySeconds = 0.1,
  lateSeconds = 0.03;
/** Of the whole tempos that end near a release so many are ranked. */
const mostReleased = 48;
const usualBars: readonly number[] = [1, 2, 4, 8];

/**
 * Whole tempos at which some bars end where the last notes are let go: those first that have a pulse, usual bars and meter, a sharp end.
 * A held pad has no pulse, so that it cannot decide alone.
 */
function releasedCandidates(starts: readonly number[], releases: readonly Release[], pulse: Pulse): RhythmCandidate[] {
  const found: { candidate: RhythmCandidate; worth: number }[] = [];
  const strongest = Math.max(0.2, ...pulsePeriods(pulse, 1).map((period) => pulseStrength(pulse, 60 / period)));
  for (const startSeconds of starts)
    for (const { seconds, bend } of releases)
      for (const meter of meters)
        for (const bars of barCounts) {
          const minutes = bars * meterBeats[meter] * 60,
            earliest = seconds - lateSeconds - startSeconds,
            latest = seconds + earlySeconds - startSeconds;
          if (earliest <= 0.3) continue;
          const usual = (meter === '4/4' ? 0.6 : 0) + (usualBars.includes(bars) ? 0.5 : 0) + Math.min(0.4, bend / 50);
          const to = Math.min(tempoRange.high, Math.floor(minutes / earliest));
          for (let tempoBpm = Math.max(tempoRange.low, Math.ceil(minutes / latest)); tempoBpm <= to; tempoBpm++)
            found.push({
              candidate: { tempoBpm, bars, meter, startSeconds, source: 'release' },
              worth: usual + pulseStrength(pulse, tempoBpm) / strongest,
            });
        }
  return found
    .sort((a, b) => b.worth - a.worth)
    .slice(0, mostReleased)
    .map(({ candidate }) => candidate);
}

/** The strongest pulses in beats a minute, as the hits have them. */
export const beatTempos = (pulse: Pulse, { onsetSeconds, onsetStrengths }: Hits): number[] =>
  pulsePeriods(pulse, 8).map((rough) => 60 / periodByHits(onsetSeconds, onsetStrengths, rough));

/** The whole number close by, which vendors mean, or the tempo itself. */
export function wholeIfNear(tempoBpm: number): number {
  const whole = Math.round(tempoBpm);
  return Math.abs(tempoBpm / whole - 1) < 0.004 ? whole : tempoBpm;
}

/**
 * All readings worth ranking: N bars that fill the file exactly, the strongest pulses with the bars that come nearest, both also at
 * the whole number close by, whole tempos that end where the last notes are let go, and what names say.
 */
export function rhythmCandidates(
  heard: Pick<Heard, 'span'>,
  pulse: Pulse,
  releases: readonly Release[],
  namedTempos: readonly number[] = [],
  tempos: readonly number[] = beatTempos(pulse, { onsetSeconds: [], onsetStrengths: [] }),
): RhythmCandidate[] {
  const { starts, ends } = spans(heard),
    found = new Map<string, RhythmCandidate>();
  const add = (candidate: RhythmCandidate) => {
    const { tempoBpm, bars, meter, startSeconds } = candidate;
    if (!(tempoBpm >= tempoRange.low && tempoBpm <= tempoRange.high) || bars < 1) return;
    const id = `${bars} ${meter} ${startSeconds > 0 ? 1 : 0} ${Math.round(Math.log(tempoBpm) / 0.0012)}`;
    if (!found.has(id)) found.set(id, candidate);
  };
  for (const startSeconds of starts)
    for (const end of ends)
      for (const meter of meters)
        for (const bars of barCounts) {
          const tempoBpm = tempoFromLength(bars * meterBeats[meter], Math.max(0.05, end - startSeconds));
          add({ tempoBpm, bars, meter, startSeconds, source: 'length' });
        }
  const free = (tempoBpm: number, source: 'pulse' | 'name') => {
    for (const startSeconds of starts)
      for (const meter of meters)
        for (const end of ends) {
          const exact = secondsToBeats(end - startSeconds, tempoBpm) / meterBeats[meter],
            floor = Math.floor(exact + 0.02);
          const list = new Set([Math.round(exact), floor, ...barCounts.filter((count) => count <= floor && count >= floor / 2)]);
          // A single bar with a tail and no more: eight would be a bold guess.
          for (const bars of list)
            if (bars >= 1 && bars <= 64 && bars <= exact + 0.1 && ((barCounts as readonly number[]).includes(bars) || bars === floor))
              add({ tempoBpm, bars, meter, startSeconds, source });
        }
  };
  for (const tempoBpm of tempos) {
    const whole = Math.round(tempoBpm);
    free(wholeIfNear(tempoBpm), 'pulse');
    if (Math.abs(tempoBpm / whole - 1) >= 0.004 && Math.abs(tempoBpm / whole - 1) < 0.012) free(whole, 'pulse');
  }
  for (const candidate of releasedCandidates(starts, releases, pulse)) add(candidate);
  for (const named of namedTempos) for (const ratio of [1, 0.5, 2, 2 / 3]) free(named * ratio, 'name');
  return [...found.values()];
}
