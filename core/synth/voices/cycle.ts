import { envelope, tau, type VoiceNote } from '../voice';

/** A sound whose cycle is drawn: two pictures of it, dark and bright, between which it goes. */
export interface CycleSound {
  /** Strength of a harmonic, from 1 upwards, at its frequency; `bright` 0–1. */
  readonly gain: (harmonic: number, hz: number, bright: number) => number;
  readonly attack: number;
  readonly decay: number;
  readonly sustain: number;
  readonly release: number;
  /** How bright it is over time, 0–1. */
  readonly bright: (t: number, note: VoiceNote) => number;
  /** Swings in pitch, as a share of it, so many times a second, after so long. */
  readonly vibrato?: { readonly depth: number; readonly hz: number; readonly after: number };
  /** Swings in level. */
  readonly tremolo?: { readonly depth: number; readonly hz: number };
  /** Breath or bow, as a share of the tone. */
  readonly noise?: number;
  /** Players beside each other, cents apart. */
  readonly detuneCents?: readonly number[];
  readonly level: number;
}

const size = 2048,
  /** What lies above is not played: nothing folds back from beyond half the rate. */
  highestShare = 0.45;

function cycleOf(note: VoiceNote, gain: CycleSound['gain'], bright: number): Float32Array {
  const out = new Float32Array(size + 1),
    count = Math.max(1, Math.min(64, Math.floor((highestShare * note.rateHz) / note.hz)));
  let power = 0;
  for (let harmonic = 1; harmonic <= count; harmonic++) {
    const amount = gain(harmonic, harmonic * note.hz, bright);
    power += amount * amount;
    // Phases that keep the peaks apart (Schroeder 1970).
    const phase = (Math.PI * harmonic * harmonic) / count;
    for (let i = 0; i < size; i++) out[i] += amount * Math.sin((tau * harmonic * i) / size + phase);
  }
  const scale = 1 / Math.sqrt(power || 1);
  for (let i = 0; i < size; i++) out[i] *= scale;
  out[size] = out[0];
  return out;
}

/** Plays such a sound. */
export function playCycle(note: VoiceNote, sound: CycleSound): Float32Array {
  const { attack, decay, sustain, release, vibrato, tremolo, noise = 0, detuneCents = [0], level } = sound,
    dark = cycleOf(note, sound.gain, 0),
    light = cycleOf(note, sound.gain, 1),
    length = Math.round((note.heldSeconds + release * 4) * note.rateHz),
    out = new Float32Array(length),
    players = detuneCents.map((cents) => ({
      ratio: 2 ** (cents / 1200),
      at: note.random() * size,
      speed: 1 + (note.random() - 0.5) * 0.12,
    })),
    share = (level * note.velocity) / Math.sqrt(players.length);
  let bright = 0,
    breath = 0;
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    if (i % 32 === 0) bright = Math.max(0, Math.min(1, sound.bright(t, note)));
    let sum = 0;
    for (const player of players) {
      const swing = vibrato
        ? 1 + vibrato.depth * Math.min(1, Math.max(0, t - vibrato.after) / 0.25) * Math.sin(tau * vibrato.hz * player.speed * t)
        : 1;
      player.at += ((note.hz * player.ratio * swing) / note.rateHz) * size;
      player.at -= Math.floor(player.at / size) * size;
      const at = Math.floor(player.at),
        part = player.at - at,
        low = dark[at] + part * (dark[at + 1] - dark[at]),
        high = light[at] + part * (light[at + 1] - light[at]);
      sum += low + bright * (high - low);
    }
    if (noise > 0) {
      breath += 0.25 * (note.random() * 2 - 1 - breath);
      sum += breath * noise * (1 + 2 * Math.exp(-t / 0.04));
    }
    const wave = tremolo ? 1 - tremolo.depth * (0.5 + 0.5 * Math.sin(tau * tremolo.hz * t)) : 1;
    out[i] = sum * share * wave * envelope(t, note.heldSeconds, attack, decay, sustain, release) * Math.min(1, (length - i) / 256);
  }
  return out;
}

/** How much a resonance of a body lifts what lies near it. @param width as a share of its place */
export const resonance = (hz: number, centreHz: number, width: number, lift: number): number =>
  lift / (1 + ((hz - centreHz) / (width * centreHz)) ** 2);
