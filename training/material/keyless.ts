import { drumChannelIndex } from '../../core/synth/play';
import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import { quartersPerBar, type Piece } from './piece';

/** Steps to keys that share few notes with the one before (the circle of fifths: three to six places away). */
const farSteps: readonly number[] = [1, 3, 4, 6, 8, 9, 11];
const wholeTones: readonly number[] = [0, 2, 4, 6, 8, 10],
  diminished: readonly number[] = [0, 2, 3, 5, 6, 8, 9, 11];

type Mover = (note: Note) => number;

/** The same key for so long, then another far from it, and again. */
function turning(piece: Piece, chance: Chance, everyQuarters: number): Mover {
  const quarters = piece.bars * quartersPerBar(piece.meter),
    steps: number[] = [0];
  while (steps.length * everyQuarters < quarters) steps.push(steps[steps.length - 1] + chance.pick(farSteps));
  // A loop that moves little should move about its own height.
  return ({ startBeat }) => {
    const step = steps[Math.min(steps.length - 1, Math.floor(startBeat / everyQuarters + 1e-6))] % 12;
    return step > 6 ? step - 12 : step;
  };
}

/** Every note drawn anew within an octave of where it was: all twelve classes alike. */
const rowOf =
  (chance: Chance): Mover =>
  () =>
    chance.whole(-6, 5);

/** Every note moved up to the next one of a scale that is the same from many places, and so has no home. */
function evenScale(scale: readonly number[], root: number): Mover {
  return ({ pitch }) => {
    for (let up = 0; up < 3; up++) if (scale.includes((((pitch + up - root) % 12) + 12) % 12)) return up;
    return 0;
  };
}

/** Scales that keys are made of: major and its relative minor, and minor with both sevenths. */
const keyScales: readonly (readonly number[])[] = [
  [0, 2, 4, 5, 7, 9, 11],
  [0, 2, 3, 5, 7, 8, 10, 11],
];
/** Of music in a key, borrowed chords and all, ninety-eight pieces of a hundred have more of their notes in one scale than this. */
const fitsFrom = 0.88;

/** How much of what sounds, by length and force, lies in the one scale that holds most of it. */
export function shareInOneScale(parts: Piece['parts']): number {
  const weights = new Float64Array(12);
  for (const { notes } of parts)
    for (const { channel, pitch, lengthBeats, velocity } of notes)
      if (channel !== drumChannelIndex) weights[pitch % 12] += lengthBeats * velocity;
  const all = weights.reduce((a, b) => a + b, 0),
    shares = keyScales.flatMap((scale) =>
      Array.from({ length: 12 }, (_, root) => scale.reduce((sum, step) => sum + weights[(root + step) % 12], 0)),
    );
  return all > 0 ? Math.max(...shares) / all : 1;
}

/**
 * A piece that has lost its key in one of the ways in which music has none: it turns to far keys, wanders with every bar or beat, uses all
 * twelve notes alike, or a scale without a home. Drums stay. Of what plays so few notes that they fit a scale all the same, nobody can say.
 */
export function withoutKey(piece: Piece, chance: Chance): Piece {
  const bar = quartersPerBar(piece.meter),
    whole = piece.bars * bar,
    move = chance.weighted<Mover>([
      [turning(piece, chance, whole / 2), 3],
      [turning(piece, chance, Math.max(bar, whole / 4)), 2],
      [turning(piece, chance, bar / 2), 1.5],
      [rowOf(chance), 2],
      [evenScale(wholeTones, chance.whole(0, 1)), 1],
      [evenScale(diminished, chance.whole(0, 2)), 1],
    ]);
  const parts = piece.parts.map((part) => ({
    ...part,
    notes: part.notes.map((note) => (note.channel === drumChannelIndex ? note : { ...note, pitch: note.pitch + move(note) })),
  }));
  return { ...piece, key: null, keyStatus: shareInOneScale(parts) < fitsFrom ? 'none' : 'ambiguous', chords: [], parts };
}
