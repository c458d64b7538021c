import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import type { Frame } from './frame';
import { scales, type Harmony } from './harmony';
import { arpeggio, bassLine, beatSteps, comp, hits, melody, note, place } from './lines';
import { euclid, scattered, type Steps } from './rhythm';

const compRhythm = (chance: Chance, shape: Frame): Steps => {
  const steps = shape.playing.barQuarters * 4;
  // A waltz puts its chords on two and three, a six its weight on one and four.
  if (shape.meter === '3/4' && chance.yes(0.6))
    return chance.pick([
      [0, 0, 0, 0, 0.75, 0, 0, 0, 0.75, 0, 0, 0],
      [1, 0, 0, 0, 0.6, 0, 0, 0, 0.6, 0, 0, 0],
      [1, 0, 0, 0, 0, 0, 0, 0, 0.6, 0, 0, 0],
      [1, 0, 0, 0, 0, 0, 0.6, 0, 0.6, 0, 0, 0],
    ]);
  if (shape.meter === '6/8' && chance.yes(0.6))
    return chance.pick([
      [1, 0, 0, 0, 0, 0, 0.8, 0, 0, 0, 0, 0],
      [1, 0, 0.4, 0, 0.4, 0, 0.8, 0, 0.4, 0, 0.4, 0],
      [1, 0, 0, 0, 0.5, 0, 0.8, 0, 0, 0, 0.5, 0],
    ]);
  return chance.pick([
    euclid(chance.pick([2, 3, 4, 5]), steps, 0),
    scattered(chance, steps, 0.3, beatSteps(shape)).map((v, k) => (k === 0 ? 1 : v)),
    scattered(chance, steps, 0.25, beatSteps(shape)),
    Array.from({ length: steps }, (_, k) => (k % 4 === 0 ? 0.75 : 0)),
    Array.from({ length: steps }, (_, k) => (k % 4 === 2 ? 0.75 : 0)),
  ]);
};

export type Player = (chance: Chance, shape: Frame, harmony: Harmony) => Note[];
export const held: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, null, { centre: chance.pick([55, 60, 64, 67]), hold: 1, strum: 0 });
export const compPlayer: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, compRhythm(chance, shape), {
    centre: chance.pick([55, 60, 64]),
    hold: chance.pick([0.4, 0.7, 0.95]),
    strum: 0.003,
  });
export const strum: Player = (chance, shape, harmony) =>
  comp(
    chance,
    shape,
    harmony,
    Array.from({ length: shape.playing.barQuarters * 4 }, (_, k) => (k === 0 || chance.yes(k % 2 ? 0.25 : 0.75) ? 0.75 : 0)),
    {
      centre: 55,
      hold: 0.9,
      strum: chance.pick([0.015, 0.03, 0.05]),
    },
  );
const stab: Player = (chance, shape, harmony) =>
  comp(chance, shape, harmony, scattered(chance, shape.playing.barQuarters * 4, 0.12, beatSteps(shape)), {
    centre: 62,
    hold: 0.3,
    strum: 0,
  });
const tune =
  (low: number, high: number): Player =>
  (chance, shape, harmony) =>
    melody(chance, shape, harmony, low, high);
const arp =
  (centre: number): Player =>
  (chance, shape, harmony) =>
    arpeggio(chance, shape, harmony, centre);
const ostinato: Player = (chance, shape, harmony) => {
  const pitch = 12 * chance.pick([3, 4, 5]) + harmony.key.tonic;
  return hits(chance, shape, scattered(chance, shape.playing.barQuarters * 4, 0.4, beatSteps(shape))).map(({ at }) =>
    note(place(at, shape, chance), 0.25, pitch + (chance.yes(0.15) ? 12 : 0), chance.whole(80, 112)),
  );
};
const riff: Player = (chance, shape, harmony) => {
  const scale = scales[harmony.scale],
    base = 40 + ((harmony.key.tonic - 4 + 12) % 12),
    figure = Array.from(
      { length: chance.whole(4, 7) },
      () => [chance.pick([0, 0, 0, 2, 3, 4, -1]), chance.pick([0.5, 0.5, 0.75, 1])] as const,
    ),
    power = chance.yes(0.5),
    notes: Note[] = [];
  for (let at = 0, k = 0; at < shape.bars * shape.playing.barQuarters - 0.01; k++) {
    const [degree, length] = figure[k % figure.length];
    const pitch = base + scale[(degree + 7) % 7] + (degree < 0 ? -12 : 0);
    for (const each of power ? [pitch, pitch + 7, pitch + 12] : [pitch])
      notes.push(note(place(at, shape, chance), length * 0.85, each, chance.whole(84, 112)));
    at += length;
  }
  return notes;
};

/** Who plays what, with weights that make the families about even. */
export const pitchedPlayers: readonly (readonly [instrument: string, weight: number, players: readonly Player[], slow?: boolean])[] = [
  ['piano', 4, [compPlayer, compPlayer, arp(64), tune(60, 86), held, ostinato]],
  ['electric-piano', 4, [compPlayer, compPlayer, held, stab, arp(62), tune(58, 84), ostinato]],
  ['organ', 3.5, [compPlayer, held, held, stab, arp(62), tune(57, 84)]],
  ['clavinet', 1.5, [compPlayer, stab, riff, tune(48, 76)]],
  ['harpsichord', 2.5, [arp(64), arp(60), compPlayer, tune(58, 86), stab]],
  ['accordion', 2, [compPlayer, tune(60, 84), held, stab, arp(62)]],
  ['acoustic-guitar', 4, [strum, strum, arp(57), tune(55, 79), compPlayer, ostinato]],
  ['electric-guitar', 4.5, [strum, riff, riff, stab, tune(52, 79), arp(57), ostinato]],
  ['banjo', 0.8, [arp(62), strum]],
  ['upright-bass', 2.5, [bassLine]],
  ['electric-bass', 4, [bassLine]],
  ['synth-bass', 5, [bassLine, bassLine, ostinato]],
  ['sub-bass', 2.5, [bassLine]],
  ['strings', 3.5, [held, held, stab, tune(60, 84)], true],
  ['violin', 2, [tune(60, 88)], true],
  ['cello', 2, [tune(40, 64)], true],
  ['pizzicato', 1.5, [arp(62), tune(55, 79), compPlayer]],
  ['harp', 1.5, [arp(65), arp(58), tune(58, 86)]],
  ['brass', 3, [stab, held, compPlayer, tune(50, 72)]],
  ['trumpet', 2.5, [tune(58, 82), stab]],
  ['trombone', 1.5, [tune(43, 67)]],
  ['sax', 3, [tune(50, 79), tune(50, 79), stab]],
  ['flute', 3, [tune(65, 90)]],
  ['clarinet', 2.5, [tune(52, 80)]],
  ['bells', 3, [tune(65, 92), arp(70), compPlayer]],
  ['marimba', 2, [arp(64), tune(55, 84), compPlayer, ostinato]],
  ['kalimba', 1.2, [arp(67), tune(62, 86), compPlayer, ostinato]],
  ['choir', 3, [held, held, tune(55, 76)], true],
  ['voice', 3.5, [tune(53, 76), tune(53, 76), held], true],
  ['synth-lead', 5, [tune(55, 84), tune(55, 84), arp(66), ostinato]],
  ['synth-pluck', 4, [arp(66), compPlayer, tune(57, 84), stab]],
  ['synth-pad', 7, [held], true],
];
