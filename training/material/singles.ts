import { instrumentById } from '../../core/theory/instruments';
import type { Chance } from './chance';
import { single } from './frame';
import { blipKeys } from './hits';
import { note } from './lines';
import type { Piece } from './piece';
import { pitchedPlayers } from './players';

/* Hits, notes, chords and effects that are no loops. */

export const drumHits: readonly (readonly [instrument: string, keys: readonly number[]])[] = [
  ['kick', [36, 35]],
  ['kick', [36]],
  ['snare', [38, 40, 37]],
  ['snare', [38, 40]],
  ['clap', [39]],
  ['hats', [42, 46, 44]],
  ['hats', [49, 51, 57, 59]],
  ['toms', [41, 43, 45, 47, 48, 50]],
  ['shaker', [70, 82, 69]],
  ['tambourine', [54]],
  ['conga', [60, 61, 62, 63, 64, 65, 66]],
  ['woodblock', [75, 76, 77, 56, 67, 68, 80, 81]],
];

/** Hits as libraries hold them, in which hand percussion weighs as much as the drum kit. */
export const handHits: typeof drumHits = [
  ...drumHits,
  ...(Array.from({ length: 4 }, () => ['conga', [60, 61, 62, 63, 64, 65, 66]]) as (typeof drumHits)[number][]),
  ['woodblock', [75, 76, 77, 56, 67, 68, 80, 81]],
  ['shaker', [70, 82, 69, 73, 74]],
  ...(Array.from({ length: 2 }, () => ['percussion', blipKeys]) as (typeof drumHits)[number][]),
];

export const drumHit = (chance: Chance, hits: typeof drumHits): Piece => {
  const [instrument, keys] = chance.pick(hits);
  return single(
    'hit',
    instrument,
    [{ startBeat: 0, lengthBeats: 0.4, pitch: chance.pick(keys), velocity: chance.whole(70, 125), channel: 9 }],
    null,
    'atonal',
  );
};

export const tonalHit = (chance: Chance): Piece => {
  const [instrument] = chance.weighted(pitchedPlayers.map((row) => [row, row[1]] as const)),
    family = instrumentById(instrument)?.family,
    tonic = chance.whole(0, 11),
    base = (family === 'bass' ? chance.pick([28, 28, 40]) : chance.pick([48, 60, 60, 72])) + tonic;
  const chord =
    family !== 'bass' && family !== 'wind' && chance.yes(0.3)
      ? chance.pick([
          [0, 4, 7],
          [0, 3, 7],
          [0, 3, 7, 10],
          [0, 4, 7, 11],
        ])
      : [0];
  const length = chance.ratio(0.2, 2.5),
    velocity = chance.whole(75, 120);
  return single(
    chord.length > 1 ? 'chord-hit' : 'note-hit',
    instrument,
    chord.map((step) => note(0, length, base + step, velocity)),
    { tonic, mode: chord[1] === 4 ? 'major' : 'minor' },
    chord.length > 1 ? 'ambiguous' : 'tonicOnly',
  );
};

/** Sounds that move or hit and have no notes; `training/material/effects.ts` makes them from the pitch, which is only a seed here. */
export const effect = (chance: Chance): Piece => {
  const instrument = chance.weighted([
    ['riser', 3],
    ['downlifter', 2],
    ['impact', 3],
    ['texture', 3],
    ['zap', 3],
  ] as const);
  return single(`fx:${instrument}`, instrument === 'zap' ? 'impact' : instrument, [note(0, chance.ratio(0.5, 6), 60, 100)], null, 'atonal');
};
