import { createRandom } from '../../core/synth/random';
import type { Chance } from './chance';

export const tau = 2 * Math.PI;

/** A resonant low-pass run over a signal with a cutoff that moves (state-variable filter; Chamberlin 1985). */
export function sweepFilter(
  signal: Float32Array,
  rateHz: number,
  cutoff: (seconds: number) => number,
  resonance: number,
  kind: 'low' | 'band' | 'high',
): void {
  let low = 0,
    band = 0;
  const damping = Math.min(1.9, 1 / Math.max(0.5, resonance));
  let f = 0;
  for (let i = 0; i < signal.length; i++) {
    if (i % 32 === 0) f = 2 * Math.sin(Math.PI * Math.min(0.16, cutoff(i / rateHz) / rateHz));
    const high = signal[i] - low - damping * band;
    band += f * high;
    low += f * band;
    signal[i] = kind === 'low' ? low : kind === 'band' ? band : high;
  }
}

export const wave = (shape: number, phase: number, width: number): number => {
  const p = phase - Math.floor(phase);
  if (shape === 0) return Math.sin(tau * p);
  if (shape === 1) return 2 * p - 1;
  if (shape === 2) return p < width ? 1 : -1;
  return 4 * Math.abs(p - 0.5) - 1;
};

/** A burst of noise through a filter, with an exponential decay. */
export function noiseBurst(
  rateHz: number,
  seconds: number,
  decay: number,
  centreHz: number,
  resonance: number,
  kind: 'low' | 'band' | 'high',
  random: () => number,
  attack = 0.0005,
): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  for (let i = 0; i < out.length; i++) out[i] = random() * 2 - 1;
  sweepFilter(out, rateHz, () => centreHz, resonance, kind);
  if (centreHz > 4000) sweepFilter(out, rateHz, () => centreHz, resonance, kind);
  for (let i = 0; i < out.length; i++) out[i] *= Math.min(1, i / rateHz / attack) * Math.exp(-i / rateHz / decay);
  return out;
}

/** A sine that falls from `from` to `to` Hz. */
export function drop(rateHz: number, seconds: number, from: number, to: number, fall: number, decay: number): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  let phase = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / rateHz;
    phase += (to + (from - to) * Math.exp(-t / fall)) / rateHz;
    out[i] = Math.sin(tau * phase) * Math.exp(-t / decay);
  }
  return out;
}

/** Six square waves at inharmonic ratios: the metal of drum machines (from memory). */
export function metal(
  rateHz: number,
  seconds: number,
  baseHz: number,
  decay: number,
  cutHz: number,
  ratios: readonly number[],
): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  for (const ratio of ratios) for (let i = 0; i < out.length; i++) out[i] += ((i * baseHz * ratio) / rateHz) % 1 < 0.5 ? 0.2 : -0.2;
  sweepFilter(out, rateHz, () => cutHz, 0.7, 'high');
  for (let i = 0; i < out.length; i++) out[i] *= Math.exp(-i / rateHz / decay);
  return out;
}

export const sum = (...parts: readonly (readonly [Float32Array, number])[]): Float32Array => {
  const out = new Float32Array(Math.max(...parts.map(([part]) => part.length)));
  for (const [part, gain] of parts) for (let i = 0; i < part.length; i++) out[i] += part[i] * gain;
  return out;
};
/** Adds a sound to another from a frame on; what goes over the end is lost. */
export const add = (into: Float32Array, sound: Float32Array, gain: number, atFrame = 0): void => {
  for (let i = 0; i < sound.length && atFrame + i < into.length; i++) into[atFrame + i] += sound[i] * gain;
};
export const shaped = (sound: Float32Array, drive: number): Float32Array =>
  drive > 0 ? sound.map((value) => Math.tanh(value * (1 + drive * 5)) / (1 + drive * 1.5)) : sound;
export const noisy = (seed: number) => createRandom(seed);

/** A burst of noise through a band, from a stream of its own; held to where the filter is stable. */
export const filteredNoise = (chance: Chance, rateHz: number, decay: number, centreHz: number, resonance: number): Float32Array =>
  noiseBurst(rateHz, decay * 6, decay, Math.min(6800, centreHz), Math.max(0.7, resonance), 'band', noisy(chance.seed()));
