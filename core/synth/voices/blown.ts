import type { Voice } from '../voice';
import { playCycle, resonance, type CycleSound } from './cycle';

/*
 * Reeds and brass by the strength of their harmonics: resonances of their tubes and bells (Fletcher & Rossing 1998; Meyer 2009, rounded, from memory).
 */

const reed =
  (changes: Partial<CycleSound> & Pick<CycleSound, 'gain'>): Voice =>
  (note) =>
    playCycle(note, {
      attack: 0.035,
      decay: 0.6,
      sustain: 0.85,
      release: 0.05,
      bright: (t) => (0.25 + 0.6 * note.velocity) * (1 - 0.3 * Math.exp(-t / 0.05)),
      vibrato: { depth: 0.003, hz: 5.1, after: 0.35 },
      noise: 0.03,
      level: 0.36,
      ...changes,
    });

/** A closed tube: its even harmonics are weak where it is low. */
export const clarinetReed = reed({
  gain: (k, hz, bright) => (k % 2 === 0 ? Math.min(0.7, 0.06 + hz / 6000) : 1) / k ** (1.9 - 0.8 * bright),
  vibrato: { depth: 0.001, hz: 4.8, after: 0.5 },
});
export const oboeReed = reed({
  gain: (k, hz, bright) => (0.25 + resonance(hz, 1100, 0.45, 1) + resonance(hz, 2900, 0.3, 0.5 + 0.5 * bright)) / k ** 0.6,
  level: 0.32,
});
export const bassoonReed = reed({
  gain: (k, hz, bright) => (0.2 + resonance(hz, 470, 0.4, 1) + resonance(hz, 1200, 0.3, 0.4 + 0.4 * bright)) / k ** 0.8,
});
export const saxReed = reed({
  gain: (k, hz, bright) =>
    (0.35 + resonance(hz, 700, 0.5, 0.8) + resonance(hz, 1800, 0.5, 0.3 + 0.6 * bright)) / k ** (1.1 - 0.35 * bright),
  noise: 0.05,
  vibrato: { depth: 0.005, hz: 5.3, after: 0.3 },
});

/** Louder is brighter, and the attack brightest: how brass is known. */
const horn =
  (changes: Partial<CycleSound>, centreHz: number, lift: number): Voice =>
  (note) =>
    playCycle(note, {
      gain: (k, hz, bright) => (0.3 + resonance(hz, centreHz, 0.7, lift)) * Math.exp(-k * (0.62 - 0.5 * bright)),
      attack: 0.045,
      decay: 0.9,
      sustain: 0.8,
      release: 0.06,
      bright: (t, { velocity }) => velocity * (0.75 + 0.45 * Math.exp(-t / 0.12)) * Math.min(1, t / 0.05),
      vibrato: { depth: 0.002, hz: 5, after: 0.5 },
      noise: 0.015,
      level: 0.36,
      ...changes,
    });
export const trumpetHorn = horn({}, 1200, 1);
export const tromboneHorn = horn({ attack: 0.055 }, 520, 0.9);
export const frenchHorn = horn({ attack: 0.07, bright: (t, { velocity }) => 0.55 * velocity * Math.min(1, t / 0.08) }, 400, 0.9);
export const tubaHorn = horn({ attack: 0.06, bright: (t, { velocity }) => 0.45 * velocity * Math.min(1, t / 0.06) }, 260, 1);
/** Four players. */
export const brassChoir = horn({ detuneCents: [-7, -2, 3, 8], level: 0.34 }, 900, 0.9);

/** Free reeds: two ranks a little apart. */
export const accordionReeds: Voice = (note) =>
  playCycle(note, {
    gain: (k, hz, bright) => (0.5 + resonance(hz, 1500, 0.8, 0.6)) / k ** (0.85 - 0.2 * bright),
    attack: 0.03,
    decay: 1,
    sustain: 0.95,
    release: 0.04,
    bright: () => 0.3 + 0.5 * note.velocity,
    detuneCents: [-4, 9],
    level: 0.34,
  });
export const harmonicaReed: Voice = (note) =>
  playCycle(note, {
    gain: (k, hz, bright) => (0.3 + resonance(hz, 1700, 0.6, 0.9)) / k ** (0.9 - 0.2 * bright),
    attack: 0.04,
    decay: 1,
    sustain: 0.9,
    release: 0.05,
    bright: () => 0.3 + 0.4 * note.velocity,
    tremolo: { depth: 0.25, hz: 5.5 },
    noise: 0.03,
    level: 0.34,
  });

const pipe =
  (breath: number, odd: number): Voice =>
  (note) =>
    playCycle(note, {
      gain: (k) => (k === 1 ? 1 : k % 2 === 0 ? 0.16 * (1 - odd) : 0.2 / k),
      attack: 0.05,
      decay: 1,
      sustain: 0.92,
      release: 0.05,
      bright: () => 0,
      vibrato: { depth: 0.003, hz: 5, after: 0.4 },
      noise: breath,
      level: 0.4,
    });
export const recorderPipe = pipe(0.06, 0.3);
export const panPipe = pipe(0.22, 0.9);
export const ocarinaPipe = pipe(0.05, 0.95);
