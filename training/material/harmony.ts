import { pitchClass } from '../../core/units/pitch';
import type { Key } from '../../core/theory/key';
import type { Chance } from './chance';
import type { ChordSpan, KeyStatus, Part } from './piece';

export const scales = {
  major: [0, 2, 4, 5, 7, 9, 11],
  minor: [0, 2, 3, 5, 7, 8, 10],
  dorian: [0, 2, 3, 5, 7, 9, 10],
  mixolydian: [0, 2, 4, 5, 7, 9, 10],
  phrygian: [0, 1, 3, 5, 7, 8, 10],
  lydian: [0, 2, 4, 6, 7, 9, 11],
} as const;
export type Scale = keyof typeof scales;
const minorish: readonly Scale[] = ['minor', 'dorian', 'phrygian'];

export interface Harmony {
  readonly key: Key;
  readonly scale: Scale;
  readonly chords: readonly ChordSpan[];
  /** A pitch class that stays in the bass, whatever is above it. */
  readonly pedal?: number;
  /** Tunes go round their tonic and seldom rest on it. */
  readonly sparesTonic?: boolean;
}

/** Degrees that follow a degree (0–6), with weights: functional harmony of popular music, common practice. */
const next: Readonly<Record<'major' | 'minor', readonly (readonly (readonly [number, number])[])[]>> = {
  major: [
    [
      [3, 4],
      [4, 4],
      [5, 4],
      [1, 2],
      [2, 1],
      [0, 1],
    ],
    [
      [4, 6],
      [0, 1],
      [3, 1],
    ],
    [
      [5, 3],
      [3, 4],
    ],
    [
      [0, 3],
      [4, 5],
      [1, 1],
      [5, 1],
    ],
    [
      [0, 6],
      [5, 3],
      [3, 1],
    ],
    [
      [3, 5],
      [1, 3],
      [4, 3],
      [2, 1],
    ],
    [[0, 1]],
  ],
  minor: [
    [
      [5, 4],
      [6, 4],
      [3, 4],
      [4, 2],
      [2, 2],
      [0, 1],
    ],
    [[4, 1]],
    [
      [6, 4],
      [5, 2],
      [3, 2],
    ],
    [
      [0, 3],
      [4, 4],
      [6, 2],
      [5, 1],
    ],
    [
      [0, 6],
      [5, 2],
      [3, 1],
    ],
    [
      [2, 3],
      [6, 4],
      [3, 2],
      [4, 2],
    ],
    [
      [0, 4],
      [2, 2],
      [5, 2],
    ],
  ],
};

const qualities = {
  M: [0, 4, 7],
  m: [0, 3, 7],
  o: [0, 3, 6],
  '7': [0, 4, 7, 10],
  M7: [0, 4, 7, 11],
  m7: [0, 3, 7, 10],
  h7: [0, 3, 6, 10],
  o7: [0, 3, 6, 9],
  m6: [0, 3, 7, 9],
  mM7: [0, 3, 7, 11],
  '+': [0, 4, 8],
} as const;

/**
 * Progressions with chords from outside the scale, as semitones above the tonic and a kind of chord: turnarounds, secondary dominants, borrowed
 * chords, blues, cadences of minor. Common practice of popular music and jazz; from memory.
 */
export const coloured: Readonly<Record<'major' | 'minor', readonly string[]>> = {
  major: [
    '4m7 9:7 2m7 7:7',
    '0M7 9:7 2m7 7:7',
    '2m7 7:7 0M7 9:7',
    '4m7 3o7 2m7 7:7',
    '0M7 1o7 2m7 7:7',
    '0M 4:7 9m 5M',
    '0M 4:7 5M 5m',
    '0M 0:7 5M 5m6',
    '0M 5M 5m 0M',
    '5M7 5m6 0M7 9:7',
    '0M 10M 5M 0M',
    '0M 8M 10M 0M',
    '0M 3M 5M 0M',
    '0M 3M 10M 5M',
    '0M 2:7 5M 0M',
    '0M 2:7 7:7 0M',
    '0M 9m 2:7 7:7',
    '0M 7M 10M 5M',
    '0:7 5:7 0:7 7:7',
    '0:7 0:7 5:7 5:7',
    '0:7 5:7',
    '0:7 3:7 5:7 0:7',
    '0M 0+ 0M 5M',
    '0M7 10:7 9:7 2m7',
    '0M7 7m7 0:7 5M7',
    '2m7 1:7 0M7 0M7',
    '5M 6o7 0M 9:7',
    '0M 11h7 4:7 9m',
    '0M 5M 8M 10M',
    '2:7 7:7 0M 0M',
  ],
  minor: [
    '0m 10M 8M 7:7',
    '0m 5m 7:7 0m',
    '0m 7:7 0m 7:7',
    '2h7 7:7 0m7 0m7',
    '0m7 8M7 2h7 7:7',
    '0m7 9h7 2h7 7:7',
    '0m 1M 7:7 0m',
    '0m 1M 0m 10M',
    '0m7 5:7',
    '0m 3M 10M 5M',
    '0m 5M 8M 10M',
    '0m 0mM7 0m7 0m6',
    '5m7 10:7 3M7 8M7',
    '5m7 7:7 0m7 0m7',
    '0m7 5m7',
    '0m7 5m7 0m7 7:7',
    '0m 2M 8M 7:7',
    '0m 6o7 5m 7:7',
    '0m 8M 5m 7M',
    '7:7 0m 5m 7:7',
    '0m 7m 8M 5m',
    '0m 3:7 8M 7:7',
  ],
};

export interface ChordAbove {
  /** Semitones above the tonic. */
  readonly root: number;
  readonly intervals: readonly number[];
}

/** `2m7 7:7` as chords above a tonic. */
export const chordsOf = (text: string): ChordAbove[] =>
  text.split(' ').map((mark) => {
    const [, root, quality] = /^(\d+):?(.+)$/.exec(mark) ?? [];
    return { root: Number(root), intervals: qualities[quality as keyof typeof qualities] };
  });

/** A coloured progression; one in eight is entered somewhere in its middle, and two of five are played as triads, the sevenths left out. */
function colouredChords(mode: 'major' | 'minor', count: number, chance: Chance): ChordAbove[] {
  const list = chordsOf(chance.pick(coloured[mode])),
    plain = chance.yes(0.4),
    turn = chance.yes(0.12) ? chance.whole(0, list.length - 1) : 0;
  return Array.from({ length: Math.max(count, 1) }, (_, k) => {
    const { root, intervals } = list[(k + turn) % list.length];
    return { root, intervals: plain ? intervals.slice(0, 3) : intervals };
  });
}

/** The chord on a degree of a scale: a triad, with the seventh in `sevenths` of all, now and then a ninth, a fourth or an open fifth. */
export function chordOn(degree: number, scale: Scale, chance: Chance, sevenths: number): readonly number[] {
  const steps = scales[scale];
  const at = (k: number) => steps[(degree + k) % 7] + 12 * Math.floor((degree + k) / 7) - steps[degree];
  const triad = [0, at(2), at(4)];
  // The leading tone of the dominant in minor.
  if (scale === 'minor' && degree === 4 && chance.yes(0.55)) triad[1] = 4;
  if (chance.yes(sevenths)) triad.push(at(6));
  else if (chance.yes(0.08)) triad.push(14);
  else if (chance.yes(0.04)) return [0, 5, 7];
  else if (chance.yes(0.05)) return [0, 7, 12];
  return triad;
}

/** How long each chord lasts. */
export const spanQuartersFor = (chance: Chance, bars: number, barQuarters: number): number =>
  bars === 1
    ? chance.pick(barQuarters === 4 ? [4, 2, 2] : [3])
    : bars === 2
      ? chance.pick(barQuarters === 4 ? [4, 4, 2, 2] : [3])
      : barQuarters * chance.pick([1, 1, 1, 2]);

/** `count` chords of one length, the same ones again and again. */
export const cycleOver = (cycled: readonly ChordAbove[], tonic: number, count: number, spanQuarters: number): ChordSpan[] =>
  Array.from({ length: count }, (_, k) => ({
    startBeat: k * spanQuarters,
    lengthBeats: spanQuarters,
    root: pitchClass(tonic + cycled[k % cycled.length].root),
    intervals: cycled[k % cycled.length].intervals,
  }));

/** A key and chords over `bars`, most of them beginning on the tonic. */
export function makeHarmony(chance: Chance, bars: number, barQuarters: number): Harmony {
  const modal = chance.yes(0.12);
  const scale = modal
    ? chance.pick(['dorian', 'mixolydian', 'phrygian', 'lydian'] as const)
    : chance.pick(['major', 'minor', 'minor'] as const);
  const mode = minorish.includes(scale) ? 'minor' : 'major',
    tonic = chance.whole(0, 11);
  const spanQuarters = spanQuartersFor(chance, bars, barQuarters);
  const count = Math.max(1, Math.round((bars * barQuarters) / spanQuarters)),
    cycle = Math.min(count, chance.pick([2, 4, 4, 4, 8])),
    sevenths = chance.pick([0, 0, 0.1, 0.7]);
  if (!modal && chance.yes(0.3)) {
    const cycled = colouredChords(mode, Math.max(cycle, Math.min(count, 2)), chance);
    return { key: { tonic, mode }, scale, chords: cycleOver(cycled, tonic, count, spanQuarters) };
  }
  const degrees: number[] = [];
  if (chance.yes(0.1)) for (let k = 0; k < cycle; k++) degrees.push(0);
  else if (modal) {
    const colour = { dorian: 3, mixolydian: 6, phrygian: 1, lydian: 1 }[scale as 'dorian' | 'mixolydian' | 'phrygian' | 'lydian'];
    for (let k = 0; k < cycle; k++) degrees.push(k % 2 === 0 ? 0 : chance.yes(0.7) ? colour : chance.pick([3, 4, 6]));
  } else {
    degrees.push(
      chance.weighted([
        [0, 14],
        [5, 2],
        [3, 2],
        [1, mode === 'major' ? 1.5 : 0],
      ]),
    );
    while (degrees.length < cycle) degrees.push(chance.weighted(next[mode][degrees[degrees.length - 1]]));
    // A piece that never meets its tonic has no business naming it.
    if (!degrees.includes(0)) degrees[degrees.length - 1] = 0;
  }
  const cycled = degrees.map((degree) => ({ root: scales[scale][degree], intervals: chordOn(degree, scale, chance, sevenths) }));
  return { key: { tonic, mode }, scale, chords: cycleOver(cycled, tonic, count, spanQuarters) };
}

export const chordAt = (chords: readonly ChordSpan[], beat: number): ChordSpan =>
  chords.findLast((chord) => chord.startBeat <= beat + 1e-6) ?? chords[0];

/** Chord notes near `centre` (a MIDI note), moving little from `before`. */
export function voicing(chord: ChordSpan, centre: number, before: readonly number[] | null, chance: Chance): number[] {
  let best: number[] = [],
    bestCost = Infinity;
  for (let inversion = 0; inversion < chord.intervals.length; inversion++)
    for (const octave of [-12, 0, 12]) {
      const notes = chord.intervals
        .map((interval, k) => chord.root + 12 * Math.floor(centre / 12) + (interval % 12) + (k < inversion ? 12 : 0) + octave)
        .sort((a, b) => a - b);
      const mean = notes.reduce((a, b) => a + b, 0) / notes.length;
      const cost =
        (before ? notes.reduce((sum, note) => sum + Math.min(...before.map((other) => Math.abs(other - note))), 0) * 0.7 : 0) +
        Math.abs(mean - centre) * 0.5 +
        chance.unit() * 3;
      if (cost < bestCost) [best, bestCost] = [notes, cost];
    }
  return best;
}

/** What the written notes really say of the key: a tonic that is not there cannot be heard. */
export function judgeKey(harmony: Harmony, parts: readonly Part[]): { key: Key; status: KeyStatus } {
  const weight = new Array<number>(12).fill(0);
  for (const { notes } of parts)
    for (const note of notes) if (note.channel !== 9) weight[pitchClass(note.pitch)] += Math.min(note.lengthBeats, 2);
  const { key, scale } = harmony,
    sum = weight.reduce((a, b) => a + b, 0),
    heard = weight.map((_, pc) => pc).filter((pc) => weight[pc] > 0);
  if (heard.length === 1) return { key: { tonic: heard[0], mode: key.mode }, status: 'tonicOnly' };
  const third = pitchClass(key.tonic + (key.mode === 'major' ? 4 : 3)),
    relative = pitchClass(key.tonic + (key.mode === 'major' ? 9 : 3));
  if (weight[key.tonic] === 0) return { key, status: 'ambiguous' };
  if (weight[third] === 0) return { key, status: weight[key.tonic] >= 0.25 * sum ? 'tonicOnly' : 'ambiguous' };
  if (scale !== 'major' && scale !== 'minor') return { key, status: 'modal' };
  const first = harmony.chords[0].root,
    diatonic = heard.every((pc) => (scales[scale] as readonly number[]).includes(pitchClass(pc - key.tonic)));
  if (diatonic && weight[relative] > 0 && (weight[relative] > weight[key.tonic] * 1.15 || first === relative))
    return { key, status: 'ambiguous' };
  if (diatonic && first !== key.tonic && weight[key.tonic] < 0.6 * Math.max(...weight)) return { key, status: 'ambiguous' };
  return { key, status: 'clear' };
}
