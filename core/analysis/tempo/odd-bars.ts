import { beatsToSeconds, secondsToBeats, tempoFromLength } from '../../units/time';
import type { Heard } from '../listen/hear';
import { cycleShare } from './accent-features';
import { barBeatsOf, lagValue, spans, tempoRange, wholeIfNear, type RhythmCandidate } from './candidates';
import { turnAt, type SharedRhythmFeatures } from './candidate-features';

/** Beats of bars in none of the usual meters: of 5/4, 7/4, 7/8, 5/8, 9/8 (in twos and a three) and 11/8, counted in quarters. */
export const oddBars = [5, 7, 3.5, 2.5, 4.5, 5.5] as const;
const oddCounts: readonly number[] = [1, 2, 3, 4, 6, 8];
/** Of all odd readings so many are looked at, and of these as many are ranked as `rhythm` likes best. */
const mostOdd = 24,
  mostRanked = 12;

/** Readings in odd bars: whole bars that fill the file, and the strongest pulses with the whole bars that go in; the likeliest at first sight. */
export function oddCandidates(
  heard: Pick<Heard, 'span'>,
  shared: SharedRhythmFeatures,
  namedTempos: readonly number[] = [],
): RhythmCandidate[] {
  const { starts, ends } = spans(heard),
    found = new Map<string, { candidate: RhythmCandidate; worth: number }>();
  const add = (candidate: RhythmCandidate) => {
    const { tempoBpm, bars, startSeconds } = candidate,
      barBeats = barBeatsOf(candidate);
    if (!(tempoBpm >= tempoRange.low && tempoBpm <= tempoRange.high) || bars < 1) return;
    const id = `${bars} ${barBeats} ${startSeconds > 0 ? 1 : 0} ${Math.round(Math.log(tempoBpm) / 0.0012)}`;
    if (!found.has(id)) found.set(id, { candidate, worth: worthOf(heard, shared, candidate) });
  };
  for (const startSeconds of starts)
    for (const end of ends)
      for (const barBeats of oddBars) {
        const odd = { meter: 'unknown', barBeats, startSeconds } as const;
        const played = (tempoBpm: number, source: 'name' | 'pulse') => {
          const exact = secondsToBeats(end - startSeconds, tempoBpm) / barBeats;
          for (const bars of new Set([Math.round(exact), Math.floor(exact + 0.02)]))
            if (bars <= exact + 0.1 && bars <= 64) add({ ...odd, tempoBpm, bars, source });
        };
        // What a name states comes first, so that nothing else at its tempo stands for it.
        for (const tempoBpm of namedTempos) played(tempoBpm, 'name');
        for (const bars of oddCounts)
          add({ ...odd, tempoBpm: tempoFromLength(bars * barBeats, Math.max(0.05, end - startSeconds)), bars, source: 'length' });
        for (const tempoBpm of shared.tempos) played(wholeIfNear(tempoBpm), 'pulse');
      }
  return [...found.values()]
    .sort((a, b) => b.worth - a.worth)
    .slice(0, mostOdd)
    .map(({ candidate }) => candidate);
}

/** What speaks for an odd reading at first sight. Of 100 loops in bars of five and seven 94 keep their right reading among 24; of all readings 98 have it. */
function worthOf(
  { span }: Pick<Heard, 'span'>,
  { pulse, likeness, noteLikeness }: SharedRhythmFeatures,
  candidate: RhythmCandidate,
): number {
  const { tempoBpm, bars, barBeats, startSeconds, source } = candidate,
    bar = beatsToSeconds(barBeatsOf(candidate), tempoBpm),
    end = startSeconds + bars * bar;
  return (
    lagValue(pulse.all, bar / pulse.hopSeconds) +
    lagValue(likeness.curve, bar / likeness.hopSeconds) +
    0.5 * noteLikeness.at(bar) +
    0.8 * closeness(span.fileSeconds - end, 0.006) +
    0.6 * closeness(span.lastSoundSeconds - end, 0.03) +
    (source === 'name' ? 1 : 0) +
    (usualCounts.includes(bars) ? 0.4 : 0) +
    (barBeats === 2.5 ? 0 : 0.2) -
    0.3 * Math.abs(Math.log2(tempoBpm / 115))
  );
}

const usualCounts: readonly number[] = [1, 2, 4, 8];
const squash = (value: number): number => Math.log1p(Math.max(0, value));
const closeness = (value: number, scale: number): number => Math.exp(-Math.abs(value) / scale);
/** Lags that bars of other lengths come round in, in beats. */
const otherBars = [2, 3, 4, 6, 8] as const;
const mostHalves = 128;

export const oddFeatureCount = 3 * (4 + otherBars.length) + 3 * 5 + oddBars.length + 12 + 1;

/** The row of “none of them”: that the meter is one of the usual three. */
export const usualRow: readonly number[] = Array.from({ length: oddFeatureCount }, (_, k) => (k === oddFeatureCount - 1 ? 1 : 0));

/** An odd reading with what it is told by. */
export interface OddReading {
  readonly candidate: RhythmCandidate;
  readonly features: readonly number[];
}

/**
 * The odd readings worth ranking. @param usual all usual readings with their logits by `rhythm`, at least one
 * @param rank the logits of other readings by the same networks
 */
export function oddReadings(
  heard: Pick<Heard, 'span'>,
  shared: SharedRhythmFeatures,
  usual: { readonly candidates: readonly RhythmCandidate[]; readonly logits: ArrayLike<number> },
  rank: (candidates: readonly RhythmCandidate[]) => ArrayLike<number>,
  namedTempos: readonly number[] = [],
): OddReading[] {
  const odd = oddCandidates(heard, shared, namedTempos);
  if (!odd.length) return [];
  const logits = rank(odd),
    best = usual.candidates.reduce((top, _, k) => (usual.logits[k] > usual.logits[top] ? k : top), 0);
  /** How likely the best usual reading at a tempo is. */
  const atTempo = (tempoBpm: number) =>
    usual.candidates.reduce(
      (top, each, k) => (Math.abs(each.tempoBpm / tempoBpm - 1) < 0.004 ? Math.max(top, usual.logits[k]) : top),
      usual.logits[best] - farBehind,
    );
  return odd
    .map((candidate, k) => ({ candidate, logit: logits[k] }))
    .sort((a, b) => b.logit - a.logit)
    .slice(0, mostRanked)
    .map(({ candidate, logit }) => ({
      candidate,
      features: oddFeatures(shared, candidate, usual.candidates[best], [logit - usual.logits[best], logit - atTempo(candidate.tempoBpm)]),
    }));
}

/** Where no usual reading has the tempo, it is so far behind the best. */
const farBehind = 20;

/**
 * What speaks for odd bars: that the sound comes round in them and not in twos, threes, fours, sixes and eights, how well they fill the file, and
 * how much better or worse the reading is by itself than the likeliest one in a usual meter. @param lead by which `rhythm` ranks the candidate before
 * the best usual reading, a logit; and before the best one at its own tempo
 */
function oddFeatures(
  shared: SharedRhythmFeatures,
  candidate: RhythmCandidate,
  usual: RhythmCandidate,
  lead: readonly [number, number],
): number[] {
  const { heard, pulse, near, likeness, noteLikeness } = shared,
    { span, onsets } = heard,
    { tempoBpm, bars, startSeconds } = candidate,
    barBeats = barBeatsOf(candidate),
    beat = beatsToSeconds(1, tempoBpm),
    bar = barBeats * beat,
    endSeconds = startSeconds + bars * bar,
    features: number[] = [];
  const ofOnsets = (seconds: number) => lagValue(pulse.all, seconds / pulse.hopSeconds),
    ofColour = (seconds: number) => lagValue(likeness.curve, seconds / likeness.hopSeconds),
    ofNotes = (seconds: number) => noteLikeness.at(seconds),
    usualBar = beatsToSeconds(barBeatsOf(usual), usual.tempoBpm);
  for (const repeats of [ofOnsets, ofColour, ofNotes]) {
    const own = repeats(bar);
    features.push(own, repeats(2 * bar), own - Math.max(repeats(bar - beat / 2), repeats(bar + beat / 2)), repeats(usualBar));
    features.push(...otherBars.map((beats) => own - repeats(beats * beat)));
  }
  const heardEnd = Math.min(endSeconds, shared.heardSeconds) - 0.01,
    count = Math.min(mostHalves, Math.max(0, Math.floor(((heardEnd - startSeconds) / beat) * 2 + 0.05)));
  const row = (of: (seconds: number) => number) => Array.from({ length: count }, (_, k) => of(startSeconds + (k * beat) / 2)),
    at = (band: number, seconds: number) => near[band][Math.round((seconds - 0.003) / onsets.hopSeconds) + 1] ?? 0;
  for (const values of [
    row((seconds) => squash(at(4, seconds))),
    row((seconds) => squash(at(0, seconds))),
    row((seconds) => turnAt(shared, seconds)),
  ])
    features.push(...[Math.round(barBeats * 2), 4, 6, 8, 16].map((cycle) => cycleShare(values, cycle)));
  features.push(...oddBars.map((each) => (each === barBeats ? 1 : 0)));
  features.push(
    ...lead.map((value) => Math.max(-12, Math.min(12, value))),
    Math.log2(tempoBpm / 115),
    Math.log2(bars),
    usualCounts.includes(bars) ? 1 : 0,
    candidate.source === 'length' ? 1 : 0,
    closeness(span.fileSeconds - endSeconds, 0.006),
    closeness(span.lastSoundSeconds - endSeconds, 0.03),
    closeness(span.fileSeconds - usual.startSeconds - usual.bars * usualBar, 0.006),
    squash(span.fileSeconds / 4),
    shared.noteShare,
    squash(shared.onsetSeconds.length / Math.max(1, span.lastSoundSeconds / beat)),
    0,
  );
  return features;
}
