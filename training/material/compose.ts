import { instrumentById } from '../../core/theory/instruments';
import { drumFill, drumNotes, drums, perc, soloDrum } from './beats';
import { Chance } from './chance';
import { frame, loopOf } from './frame';
import { makeHarmony, type Harmony } from './harmony';
import { bassLine, melody } from './lines';
import type { Part, Piece } from './piece';
import { compPlayer, held, pitchedPlayers, strum } from './players';
import { grooves } from './rhythm';
import { drumHit, drumHits, effect, handHits, tonalHit } from './singles';

type HarmonyMaker = (chance: Chance, bars: number, barQuarters: number) => Harmony;

const tonal = (chance: Chance, harmonyOf: HarmonyMaker = makeHarmony): Piece => {
  const [instrument, , players, slow] = chance.weighted(pitchedPlayers.map((row) => [row, row[1]] as const)),
    shape = frame(chance, [58, 184], { slow }),
    harmony = harmonyOf(chance, shape.bars, shape.playing.barQuarters),
    player = chance.pick(players);
  const notes = player(chance, shape, harmony);
  // Chords that change slower than twice a loop tell no tempo.
  const tempoHeard = player !== held || harmony.chords.length >= 3;
  return loopOf(`tonal:${instrumentById(instrument)?.family}`, instrument, shape, [{ instrument, notes, gain: 1 }], harmony, tempoHeard);
};

const mix = (chance: Chance, harmonyOf: HarmonyMaker = makeHarmony): Piece => {
  const style = chance.pick(['four', 'broken', 'rock', 'half', 'shuffled', 'fast', 'island'] as const),
    shape = frame(chance, grooves[style].tempos, {
      slow: true,
      meter: chance.weighted([
        ['4/4', 90],
        ['3/4', 6],
        ['6/8', 4],
      ] as const),
      swing: grooves[style].swing,
    }),
    harmony = harmonyOf(chance, shape.bars, shape.playing.barQuarters);
  const parts: Part[] = [
    { instrument: 'kit', notes: drumNotes(chance, style, shape), gain: chance.between(0.7, 1) },
    {
      instrument: chance.pick(['electric-bass', 'synth-bass', 'upright-bass', 'sub-bass']),
      notes: bassLine(chance, shape, harmony),
      gain: chance.between(0.7, 1),
    },
    {
      instrument: chance.pick(['piano', 'electric-piano', 'organ', 'electric-guitar', 'strings', 'synth-pad', 'brass', 'acoustic-guitar']),
      notes: chance.pick([compPlayer, held, strum])(chance, shape, harmony),
      gain: chance.between(0.5, 0.9),
    },
  ];
  if (chance.yes(0.5))
    parts.push({
      instrument: chance.pick(['synth-lead', 'sax', 'flute', 'trumpet', 'voice', 'bells']),
      notes: melody(chance, shape, harmony, 60, 84),
      gain: chance.between(0.4, 0.8),
    });
  return loopOf('mix', 'full-mix', shape, parts, harmony);
};

type Maker = (chance: Chance, harmonyOf?: HarmonyMaker) => Piece;
const harmonic: readonly Maker[] = [tonal, mix];

/** What pieces there are, with how many of each; `hits` times as many single sounds as usual, `broad`: with more hand percussion. */
const makers = (hits: number, broad: boolean): readonly (readonly [Maker, number])[] => [
  [drums, 20],
  [soloDrum, 7],
  [perc, 12],
  [drumFill, 1.5],
  [tonal, 46],
  [mix, 6],
  [(chance) => drumHit(chance, broad ? handHits : drumHits), 10 * hits],
  [tonalHit, 6 * hits],
  [effect, 6 * hits],
];
const compose = (seed: number, list: readonly (readonly [Maker, number])[]): Piece => {
  const chance = new Chance(seed);
  return chance.weighted(list)(chance);
};

/** One piece from a seed; the same for the same seed. See `makers` for the rest. */
export const composePiece = (seed: number, hits = 1, broad = false): Piece => compose(seed, makers(hits, broad));

/** A loop with notes, for what only such loops can teach: keys. */
export const composeTonal = (seed: number): Piece =>
  compose(
    seed,
    makers(1, false).filter(([maker]) => harmonic.includes(maker)),
  );

/** A loop with notes over the harmony of another maker. */
export const composeOver = (seed: number, harmonyOf: HarmonyMaker): Piece =>
  compose(
    seed,
    makers(1, false)
      .filter(([maker]) => harmonic.includes(maker))
      .map(([maker, weight]) => [(chance) => maker(chance, harmonyOf), weight]),
  );

/** A piece without harmony: drums, hand percussion, single sounds, effects. */
export const composeUntuned = (seed: number, hits = 1, broad = false): Piece =>
  compose(
    seed,
    makers(hits, broad).filter(([maker]) => !harmonic.includes(maker)),
  );
