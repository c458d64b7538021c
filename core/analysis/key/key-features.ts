import { allKeys, type Key } from '../../theory/key';
import { lowestNote, noteCount, type NoteFrames } from '../notes/note-fit';
import { profileFitCount, profileFits } from './profiles';

/** Which pitch classes sound where in a loop: what a key is judged from. All vectors of 12 sum to 1 (0 for silence). */
export interface SharedKeyFeatures {
  /** Pitch classes by strength, and by how much of the time they sound clearly. */
  readonly strength: Float32Array;
  readonly presence: Float32Array;
  /** The lowest clear note. */
  readonly bass: Float32Array;
  /** First and last eighth of the loop: all notes and the lowest. */
  readonly first: Float32Array;
  readonly firstBass: Float32Array;
  readonly last: Float32Array;
  /** Chord templates over the loop (12 major, then 12 minor), in its first eighth, in its last, and at the places of bars. */
  readonly chords: Float32Array;
  readonly firstChord: Float32Array;
  readonly lastChord: Float32Array;
  /** 16 slots of 24 chords each. */
  readonly slots: readonly Float32Array[];
  /** The chords of each quarter of the loop, 24 each: their order tells a turnaround from a home. */
  readonly quarters: readonly Float32Array[];
  /** What plain profiles say of the 24 keys: see `profileFits`. */
  readonly fits: readonly Float32Array[];
}

const slotCount = 16,
  quarterCount = 4;
const normalised = (values: Float32Array): Float32Array => {
  const sum = values.reduce((a, b) => a + b, 0);
  return sum > 0 ? values.map((value) => value / sum) : values;
};

/** How well 24 triads explain pitch-class weights: root and fifth and third, less what stands outside; softened to sum 1. */
export function chordLikeness(weights: ArrayLike<number>, bass: ArrayLike<number> | null): Float32Array {
  const scores = new Float32Array(24);
  let norm = 0;
  for (let pc = 0; pc < 12; pc++) norm += weights[pc] * weights[pc];
  if (norm <= 1e-12) return scores;
  norm = Math.sqrt(norm);
  for (let root = 0; root < 12; root++)
    for (let minor = 0; minor < 2; minor++) {
      const third = (root + (minor ? 3 : 4)) % 12,
        fifth = (root + 7) % 12;
      const score = (weights[root] * 1.05 + weights[third] + weights[fifth] * 0.95) / (norm * Math.sqrt(3));
      scores[minor * 12 + root] = Math.exp(9 * (score + 0.15 * (bass?.[root] ?? 0)));
    }
  return normalised(scores);
}

/** @param fromSeconds, toSeconds the music, where it is known to be shorter than the file */
export function sharedKeyFeatures(notes: NoteFrames, fromSeconds: number, toSeconds: number): SharedKeyFeatures {
  const from = Math.max(0, Math.floor(fromSeconds / notes.hopSeconds)),
    to = Math.max(from + 1, Math.min(notes.frameCount, Math.ceil(toSeconds / notes.hopSeconds)));
  const slotNotes = Array.from({ length: slotCount }, () => new Float32Array(12)),
    slotBass = Array.from({ length: slotCount }, () => new Float32Array(12)),
    strength = new Float32Array(12),
    presence = new Float32Array(12);
  let loudest = 0;
  for (let i = from * noteCount; i < to * noteCount; i++) loudest = Math.max(loudest, notes.strengths[i]);
  for (let frame = from; frame < to; frame++) {
    const slot = Math.min(slotCount - 1, Math.floor(((frame - from) / (to - from)) * slotCount)),
      row = frame * noteCount;
    let most = 0;
    for (let note = 0; note < noteCount; note++) most = Math.max(most, notes.strengths[row + note]);
    if (most < loudest * 0.03) continue;
    let lowest = -1;
    const heard = new Set<number>();
    for (let note = 0; note < noteCount; note++) {
      const value = notes.strengths[row + note];
      if (value < most * 0.08) continue;
      const pc = (lowestNote + note) % 12,
        // Very low and very high notes are often ghosts of others.
        weight = value * (note < 8 || note > 72 ? 0.4 : 1);
      strength[pc] += weight;
      slotNotes[slot][pc] += weight;
      if (value > most * 0.25) {
        heard.add(pc);
        if (lowest < 0) lowest = note;
      }
    }
    for (const pc of heard) presence[pc] += 1;
    if (lowest >= 0) slotBass[slot][(lowestNote + lowest) % 12] += notes.strengths[row + lowest];
  }
  const sum = (list: readonly Float32Array[]) => {
    const out = new Float32Array(12);
    for (const each of list) for (let pc = 0; pc < 12; pc++) out[pc] += each[pc];
    return normalised(out);
  };
  const bass = sum(slotBass.map((each) => normalised(each.slice()))),
    slots = slotNotes.map((each, k) => chordLikeness(each, normalised(slotBass[k].slice())));
  const chords = new Float32Array(24);
  for (const slot of slots) for (let k = 0; k < 24; k++) chords[k] += slot[k] / slotCount;
  const firstSound = slots.findIndex((slot) => slot.some((value) => value > 0)),
    lastSound = slots.findLastIndex((slot) => slot.some((value) => value > 0));
  const shares = { strength: normalised(strength), presence: normalised(presence) };
  return {
    ...shares,
    bass,
    fits: profileFits(shares.strength, shares.presence, bass),
    first: sum(slotNotes.slice(Math.max(0, firstSound), Math.max(0, firstSound) + 2)),
    firstBass: sum(slotBass.slice(Math.max(0, firstSound), Math.max(0, firstSound) + 2)),
    last: sum(slotNotes.slice(Math.max(0, lastSound - 1), Math.max(1, lastSound + 1))),
    chords: normalised(chords),
    firstChord: slots[Math.max(0, firstSound)],
    lastChord: slots[Math.max(0, lastSound)],
    slots,
    quarters: Array.from({ length: quarterCount }, (_, k) => {
      const here = [(k * slotCount) / quarterCount, ((k + 1) * slotCount) / quarterCount] as const;
      return chordLikeness(sum(slotNotes.slice(...here)), sum(slotBass.slice(...here)));
    }),
  };
}

/** Notes of major, of natural and of harmonic minor, from the tonic. */
const scales: readonly (readonly number[])[] = [
  [0, 2, 4, 5, 7, 9, 11],
  [0, 2, 3, 5, 7, 8, 10],
  [0, 2, 3, 5, 7, 8, 11],
];

/** Where the chords of the four quarters stand among the features, 24 each. */
export const quarterFeaturesAt = 6 * 12 + 4 * 24 + 3;

export const keyFeatureCount = quarterFeaturesAt + quarterCount * 24 + profileFitCount * 4 + scales.length * 2 + 2 * 24;

const keyIndex = (tonic: number, mode: Key['mode']): number => allKeys.findIndex((key) => key.tonic === tonic && key.mode === mode);

/** From which chords a loop comes to one of them, going round: a home is come to from its fifth. @param chord 0–11 major, 12–23 minor */
function comingFrom(slots: readonly Float32Array[], chord: number): Float32Array {
  const from = new Float32Array(24);
  slots.forEach((slot, k) => {
    const here = slots[(k + 1) % slots.length][chord] ?? 0;
    // What stays comes from nowhere.
    for (let other = 0; other < 24; other++) if (other !== chord) from[other] += ((slot[other] ?? 0) * here) / slots.length;
  });
  return from;
}

/** All of it turned so that `tonic` is 0. */
export function keyFeatures(shared: SharedKeyFeatures, tonic: number): number[] {
  const features: number[] = [];
  const turned = (values: Float32Array, power = 1) => {
    for (let k = 0; k < 12; k++) features.push(values[(tonic + k) % 12] ** power);
  };
  const turnedChords = (values: Float32Array) => {
    for (let minor = 0; minor < 2; minor++) for (let k = 0; k < 12; k++) features.push(values[minor * 12 + ((tonic + k) % 12)] ?? 0);
  };
  turned(shared.strength, 0.5);
  turned(shared.presence);
  turned(shared.bass);
  turned(shared.first);
  turned(shared.firstBass);
  turned(shared.last);
  turnedChords(shared.chords);
  turnedChords(shared.firstChord);
  turnedChords(shared.lastChord);
  // Chords at the strong places: the beginnings of quarters of the loop.
  const strong = new Float32Array(24);
  for (const slot of [0, 4, 8, 12]) for (let k = 0; k < 24; k++) strong[k] += shared.slots[slot][k] / 4;
  turnedChords(strong);
  const entropy = -shared.strength.reduce((sum, value) => sum + (value > 0 ? value * Math.log(value) : 0), 0);
  features.push(entropy, Math.max(...shared.chords), Math.max(...shared.strength));
  for (const quarter of shared.quarters) turnedChords(quarter);
  for (const fits of shared.fits) {
    const most = Math.max(...fits);
    for (const mode of ['major', 'minor'] as const) {
      const fit = fits[keyIndex(tonic, mode)];
      features.push(fit, fit - most);
    }
  }
  for (const weights of [shared.strength, shared.presence])
    for (const scale of scales) features.push(scale.reduce((sum, step) => sum + weights[(tonic + step) % 12], 0));
  turnedChords(comingFrom(shared.slots, tonic));
  turnedChords(comingFrom(shared.slots, tonic + 12));
  return features;
}
