import { bandFilter, filterSignal, passFilter } from '../../dsp/biquad';
import { noise, shaped, tau, type Voice, type VoiceNote } from '../voice';

const frames = (note: VoiceNote, seconds: number) => Math.round(seconds * note.rateHz);

/** Grains sliding in a shell: band noise with a soft start. */
export const shaker: Voice = (note) => {
  const length = frames(note, 0.14),
    raw = noise(note, length);
  const band = filterSignal(
    filterSignal(raw, bandFilter(5200 + 2600 * note.tone, 0.9, note.rateHz)),
    passFilter('high', 3000, note.rateHz),
  );
  const attack = 0.006 + 0.012 * (1 - note.velocity);
  return shaped(band, (value, i) => {
    const t = i / note.rateHz;
    return (
      value * Math.min(1, t / attack) * Math.exp(-Math.max(0, t - attack) / 0.024) * note.velocity * 1.5 * Math.min(1, (length - i) / 200)
    );
  });
};

/** Jingles: a few high partials that beat, with noise. */
export const tambourine: Voice = (note) => {
  const length = frames(note, 0.32),
    out = new Float32Array(length),
    partials = [5400, 6130, 7340, 8210, 9480].map((hz) => hz * (0.96 + 0.08 * note.tone));
  const phases = partials.map(() => note.random());
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    let sum = (note.random() * 2 - 1) * 0.7 * Math.exp(-t / 0.02);
    partials.forEach((hz, k) => {
      sum += Math.sin(tau * (hz * t + phases[k])) * 0.22;
    });
    out[i] =
      sum *
      Math.exp(-t / (0.05 + 0.05 * note.velocity)) *
      note.velocity *
      0.5 *
      Math.min(1, (i + 1) / 40) *
      Math.min(1, (length - i) / 400);
  }
  return out;
};

/** A hand drum with a bending skin; `velocity` above 0.85 slaps. */
export const conga: Voice = (note) => {
  const slap = note.velocity > 0.85,
    length = frames(note, 0.42),
    out = new Float32Array(length);
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    phase += (note.hz * (1 + 0.12 * Math.exp(-t / 0.012))) / note.rateHz;
    const skin = Math.sin(tau * phase) * Math.exp(-t / (slap ? 0.05 : 0.14)) + 0.35 * Math.sin(tau * phase * 2.14) * Math.exp(-t / 0.04);
    const hand = (note.random() * 2 - 1) * Math.exp(-t / (slap ? 0.012 : 0.004)) * (slap ? 0.7 : 0.25);
    out[i] = (skin + hand) * note.velocity * 0.6 * Math.min(1, (length - i) / 300);
  }
  return out;
};

/** Hard wood: two short modes. `hz` sets the pitch. */
export const woodblock: Voice = (note) => {
  const length = frames(note, 0.12),
    out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    out[i] =
      (Math.sin(tau * note.hz * t) + 0.5 * Math.sin(tau * note.hz * 2.57 * t)) *
      Math.exp(-t / 0.018) *
      note.velocity *
      0.55 *
      Math.min(1, (i + 1) / 12);
  }
  return out;
};

/** A struck bell of sheet metal: two square-like tones a fifth and a bit apart. */
export const metalBell: Voice = (note) => {
  const length = frames(note, 0.4),
    raw = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    raw[i] =
      (Math.tanh(3 * Math.sin(tau * note.hz * t)) + Math.tanh(3 * Math.sin(tau * note.hz * 1.504 * t))) *
      0.3 *
      (0.6 * Math.exp(-t / 0.02) + 0.4 * Math.exp(-t / 0.11)) *
      note.velocity *
      Math.min(1, (length - i) / 300);
  }
  return shaped(filterSignal(raw, bandFilter(note.hz * 2.2, 0.8, note.rateHz)), (value) => value * 1.6);
};
