import { bandFilter, filterSignal, passFilter } from '../../core/dsp/biquad';
import { room, saturate, scaleToPeak } from '../../core/synth/effects';
import type { Chance } from './chance';
import type { Piece } from './piece';

export type Stereo = [Float32Array, Float32Array];

/** What was done to the file, by the same words as the outside development set uses. */
export interface Finish {
  readonly sound: Float32Array[];
  readonly conditions: readonly string[];
  readonly leadSeconds: number;
  /** How much longer (or shorter) the file is than lead and music. */
  readonly endDeltaSeconds: number;
}

const rateHz = 44100;

/** A tilt of the spectrum or a lost end of it, as cheap microphones, tape and laptops make it. */
function colour(sound: Stereo, chance: Chance): void {
  // Broad peaks and dips anywhere, as rooms, microphones and mixing engineers make them.
  for (let bands = chance.pick([0, 0, 1, 2, 3]); bands > 0; bands--) {
    const filter = bandFilter(chance.ratio(120, 9000), chance.ratio(0.5, 2), rateHz),
      amount = 10 ** (chance.between(-9, 9) / 20) - 1;
    for (const plane of sound) {
      const band = filterSignal(plane, filter);
      for (let i = 0; i < plane.length; i++) plane[i] += band[i] * amount;
    }
  }
  const kind = chance.pick(['none', 'none', 'none', 'dark', 'thin', 'tilt', 'tilt']);
  if (kind === 'none') return;
  for (let side = 0; side < 2; side++) {
    const plane = sound[side];
    if (kind === 'dark') sound[side] = Float32Array.from(filterSignal(plane, passFilter('low', 9000, rateHz)));
    else if (kind === 'thin') sound[side] = Float32Array.from(filterSignal(plane, passFilter('high', 90, rateHz)));
    else {
      // A one-pole shelf: the sound and a share of its low part.
      const amount = kind === 'tilt' ? 0.6 : 0;
      let low = 0;
      for (let i = 0; i < plane.length; i++) {
        low += 0.08 * (plane[i] - low);
        plane[i] = plane[i] * (1 - amount * 0.5) + low * amount;
      }
    }
  }
}

/** Peaks pressed down by a fast compressor (feed-forward, 4 : 1). */
function compress(sound: Stereo, threshold: number): void {
  let level = 0;
  for (let i = 0; i < sound[0].length; i++) {
    const peak = Math.max(Math.abs(sound[0][i]), Math.abs(sound[1][i]));
    level += (peak > level ? 0.02 : 0.0005) * (peak - level);
    if (level > threshold) {
      const gain = (level / threshold) ** -0.75;
      sound[0][i] *= gain;
      sound[1][i] *= gain;
    }
  }
}

/** Room, drive, colour, level and the state in which vendors deliver: exact, with a tail, trimmed, padded, with silence in front. */
export function finish(raw: Stereo, piece: Piece, musicSeconds: number, chance: Chance): Finish {
  const sound = raw;
  scaleToPeak(sound, -3);
  if (chance.yes(0.3)) saturate(sound, chance.between(0.1, 1));
  if (chance.yes(0.25)) compress(sound, chance.between(0.1, 0.4));
  colour(sound, chance);
  if (chance.yes(0.6)) room(sound, rateHz, chance.ratio(0.02, 0.35), chance.ratio(0.3, 2.5), false);
  const music = Math.round(musicSeconds * rateHz),
    conditions: string[] = [];
  let planes: Float32Array[],
    lead = 0,
    delta = 0;
  if (!piece.isLoop) {
    scaleToPeak(sound, 0);
    const threshold = 10 ** (-chance.pick([45, 55, 65]) / 20);
    let last = 0;
    for (let i = 0; i < sound[0].length; i++) if (Math.max(Math.abs(sound[0][i]), Math.abs(sound[1][i])) > threshold) last = i;
    planes = sound.map((plane) => plane.slice(0, Math.min(plane.length, last + 441)));
    if (chance.yes(0.25)) lead = Math.round(chance.between(0.002, 0.05) * rateHz);
    conditions.push('len:natural');
  } else {
    const length = chance.weighted([
      ['exact', 55],
      ['wrapped', 10],
      ['tail', 12],
      ['lead', 8],
      ['trimmed', 8],
      ['lead+tail', 3],
      ['padded', 4],
    ] as const);
    conditions.push(`len:${length}`);
    if (length === 'wrapped')
      planes = sound.map((plane) => {
        const out = plane.slice(0, music);
        for (let i = music; i < plane.length && i < 2 * music; i++) out[i - music] += plane[i];
        return out;
      });
    else if (length.includes('tail')) {
      delta = Math.round(chance.between(0.3, 2.5) * rateHz);
      planes = sound.map((plane) => plane.slice(0, music + delta));
      delta = planes[0].length - music;
    } else if (length === 'trimmed') {
      delta = -Math.round(chance.between(0.003, 0.015) * rateHz);
      planes = sound.map((plane) => plane.slice(0, music + delta));
    } else if (length === 'padded') {
      delta = Math.round(chance.between(0.05, 1) * rateHz);
      planes = sound.map((plane) => {
        const out = new Float32Array(music + delta);
        out.set(plane.subarray(0, music));
        return out;
      });
    } else planes = sound.map((plane) => plane.slice(0, music));
    if (length.includes('lead')) lead = Math.round(chance.between(0.01, 0.05) * rateHz);
    const fade = length.includes('tail') ? Math.min(Math.round(0.2 * rateHz), delta) : length === 'wrapped' ? 0 : 132;
    for (const plane of planes) for (let i = 0; i < Math.min(fade, plane.length); i++) plane[plane.length - 1 - i] *= i / fade;
  }
  if (lead)
    planes = planes.map((plane) => {
      const out = new Float32Array(plane.length + lead);
      out.set(plane, lead);
      return out;
    });
  scaleToPeak(planes as Stereo, -0.3);
  if (chance.yes(0.15)) {
    const noise = 10 ** (-chance.between(45, 64) / 20);
    for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] += chance.normal(1) * noise * 0.7;
    conditions.push('noise');
  }
  const level = chance.weighted([
    ['norm', 60],
    ['mid', 20],
    ['quiet', 10],
    ['clipped', 10],
  ] as const);
  conditions.push(`lev:${level}`);
  const gain =
    level === 'norm'
      ? 1
      : level === 'mid'
        ? 10 ** (-chance.between(6, 14) / 20)
        : level === 'quiet'
          ? 10 ** (-30 / 20)
          : 10 ** (chance.between(1, 5) / 20);
  for (const plane of planes) for (let i = 0; i < plane.length; i++) plane[i] = Math.max(-1, Math.min(1, plane[i] * gain));
  if (chance.yes(0.25)) planes = [planes[0].map((value, i) => (value + planes[1][i]) / 2)];
  return { sound: planes, conditions, leadSeconds: lead / rateHz, endDeltaSeconds: delta / rateHz };
}
