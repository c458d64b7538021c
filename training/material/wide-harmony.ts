import type { Chance } from './chance';
import { chordOn, chordsOf, cycleOver, scales, spanQuartersFor, type ChordAbove, type Harmony } from './harmony';

/**
 * Harmony that no list holds, so that keys are not learnt by heart: degrees walked by weights that every piece draws for itself, borrowed
 * chords, a bass that stays, two chords in turns, tunes that spare their tonic. Common practice; from memory.
 */
export const wideKinds = ['walked', 'borrowed', 'pedal', 'pendulum', 'spared'] as const;

/** Kinds that nothing is learnt from: sureness is set on them, and they tell whether what was learnt holds elsewhere. */
export const keptOutKinds = ['falling', 'stepwise', 'closing'] as const;
export type WideKind = (typeof wideKinds)[number] | (typeof keptOutKinds)[number];

type Mode = 'major' | 'minor';

/** How readily each degree is gone to, before a piece bends it. */
const readiness: Readonly<Record<Mode, readonly number[]>> = {
  major: [5, 2.2, 1.2, 4, 4, 3, 0.2],
  minor: [5, 0.4, 2, 3, 2.6, 3, 3],
};

/** What is borrowed, as semitones above the tonic and a kind of chord. */
const borrowed: Readonly<Record<Mode, string>> = {
  major: '5m 10M 8M 3M 2:7 4:7 9:7 0:7 7m 1M 6o7',
  minor: '5M 7:7 1M 2M 0M 7M 2m 9h7 6o7',
};

/** What alternates with the tonic, as semitones above it. */
const partners: Readonly<Record<Mode, string>> = {
  major: '5M 7M 9m 2m 10M 4m 5m 7m',
  minor: '8M 5m 7m 10M 3M 5M 1M 7:7',
};

/** Degrees drawn one after the other: the tonic first in two of three, and met somewhere in all. */
function walkedDegrees(chance: Chance, mode: Mode, count: number): number[] {
  const weights = readiness[mode].map((weight, degree) => [degree, weight * chance.ratio(0.4, 2.5)] as const),
    staying = chance.pick([0, 0.1, 0.3]),
    degrees = [chance.yes(0.66) ? 0 : chance.weighted(weights)];
  while (degrees.length < count) {
    const following = chance.weighted(weights);
    degrees.push(following === degrees[degrees.length - 1] && !chance.yes(staying) ? chance.weighted(weights) : following);
  }
  if (!degrees.includes(0)) degrees[chance.whole(0, count - 1)] = 0;
  return degrees;
}

/** Degrees of the kinds that are kept out. */
function orderedDegrees(chance: Chance, kind: 'falling' | 'stepwise' | 'closing', mode: Mode, count: number): number[] {
  if (kind === 'closing') {
    const walked = walkedDegrees(chance, mode, count).map((degree) => (degree === 0 ? chance.pick([3, 4, 5]) : degree));
    return [...walked.slice(0, -1), 0];
  }
  const step = kind === 'falling' ? chance.pick([3, 3, 5]) : chance.pick([1, 6]),
    from = kind === 'falling' ? chance.pick([0, 0, 5, 2]) : 0;
  const degrees = Array.from({ length: count }, (_, k) => (from + k * step) % 7);
  if (!degrees.includes(0)) degrees[count - 1] = 0;
  return degrees;
}

/** A key and chords over `bars`, of one of `kinds`; a loop keeps coming round to the same ones. */
export function makeWideHarmony(kinds: readonly WideKind[], chance: Chance, bars: number, barQuarters: number): Harmony {
  const mode = chance.pick(['major', 'minor'] as const),
    tonic = chance.whole(0, 11),
    kind = chance.pick(kinds),
    spanQuarters = spanQuartersFor(chance, bars, barQuarters),
    count = Math.max(1, Math.round((bars * barQuarters) / spanQuarters)),
    cycle = kind === 'pendulum' ? 2 : Math.min(count, chance.pick([2, 3, 4, 4, 6, 8])),
    sevenths = chance.pick([0, 0, 0.1, 0.9]);
  const onDegrees = (degrees: readonly number[]): ChordAbove[] =>
    degrees.map((degree) => ({ root: scales[mode][degree], intervals: chordOn(degree, mode, chance, sevenths) }));
  let cycled: ChordAbove[];
  if (kind === 'pendulum') {
    const [home] = onDegrees([0]),
      away = chance.pick(chordsOf(partners[mode])),
      other = sevenths === 0 ? { ...away, intervals: away.intervals.slice(0, 3) } : away;
    cycled = chance.pick([
      [home, other],
      [home, other],
      [home, home, other, other],
      [home, home, home, other],
      [other, home],
      [home, other, other, other],
    ]);
  } else if (kind === 'falling' || kind === 'stepwise' || kind === 'closing')
    cycled = onDegrees(orderedDegrees(chance, kind, mode, Math.max(2, cycle)));
  else {
    const degrees = walkedDegrees(chance, mode, cycle);
    cycled = onDegrees(degrees);
    if (kind === 'borrowed')
      // Never all of the tonic's places: a piece that never meets its tonic has no business naming it.
      for (let k = 0; k < chance.whole(1, 2); k++) {
        const at = chance.whole(0, cycled.length - 1);
        if (degrees[at] !== 0 || degrees.filter((degree) => degree === 0).length > 1) cycled[at] = chance.pick(chordsOf(borrowed[mode]));
      }
  }
  return {
    key: { tonic, mode },
    scale: mode,
    chords: cycleOver(cycled, tonic, count, spanQuarters),
    ...(kind === 'pedal' && { pedal: (tonic + (chance.yes(0.75) ? 0 : 7)) % 12 }),
    ...(kind === 'spared' && { sparesTonic: true }),
  };
}
