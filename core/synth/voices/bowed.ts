import type { Voice } from '../voice';
import { playCycle, resonance } from './cycle';

/*
 * Bowed strings: the saw of a string between bow and bridge, lifted by the resonances of a body (Fletcher & Rossing 1998, from memory), scaled with
 * its size.
 */
const bowed =
  (size: number, players: readonly number[], level = 0.34): Voice =>
  (note) =>
    playCycle(note, {
      gain: (k, hz, bright) =>
        ((0.3 +
          resonance(hz, 290 * size, 0.25, 0.7) +
          resonance(hz, 480 * size, 0.3, 0.8) +
          resonance(hz, 1100 * size, 0.35, 0.4) +
          resonance(hz, 2700 * size, 0.35, 0.4 + 0.6 * bright)) *
          1) /
        k ** (1.05 - 0.25 * bright),
      attack: players.length > 1 ? 0.11 : 0.07,
      decay: 1.2,
      sustain: 0.9,
      release: players.length > 1 ? 0.13 : 0.09,
      bright: (t, { velocity }) => velocity * (0.5 + 0.3 * Math.exp(-t / 0.08)),
      vibrato: { depth: 0.0045, hz: 5.6, after: 0.18 },
      noise: 0.035,
      detuneCents: players,
      level,
    });
export const soloViolin = bowed(1, [0]);
export const soloViola = bowed(0.75, [0]);
export const soloCello = bowed(0.4, [0]);
export const stringPlayers = bowed(0.8, [-9, -4, 1, 5, 10]);
