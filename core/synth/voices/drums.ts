import { bandFilter, filterSignal, passFilter } from '../../dsp/biquad';
import { noise, shaped, tau, withinTurn, type Voice, type VoiceNote } from '../voice';

const frames = (note: VoiceNote, seconds: number) => Math.round(seconds * note.rateHz);

/** A sine that falls in pitch, with a click; `tone` shortens and tightens it. */
export const kick: Voice = (note) => {
  const length = frames(note, 0.5 - 0.2 * note.tone),
    out = new Float32Array(length);
  const base = 44 + 14 * note.tone,
    sweep = 130 + 120 * note.velocity;
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    phase += (base + sweep * Math.exp(-t / (0.018 + 0.012 * (1 - note.tone)))) / note.rateHz;
    const body = Math.sin(tau * phase) * Math.exp(-t / (0.16 - 0.06 * note.tone));
    const click = (note.random() * 2 - 1) * Math.exp(-t / 0.0025) * (0.1 + 0.25 * note.tone);
    out[i] = Math.tanh(1.6 * (body + click)) * note.velocity * 0.75 * Math.min(1, (length - i) / 400);
  }
  return out;
};

/** Two tuned modes and a band of noise: snare. A low velocity gives a ghost note: darker and shorter. */
export const snare: Voice = (note) => {
  const decay = 0.05 + 0.1 * note.velocity,
    length = frames(note, 0.32),
    body = 175 + 60 * note.tone;
  const wires = filterSignal(
    filterSignal(noise(note, length), passFilter('high', 900 + 900 * note.tone, note.rateHz)),
    passFilter('low', 4500 + 7000 * note.velocity, note.rateHz),
  );
  const out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    const skin =
      Math.sin(tau * body * t + 3 * Math.exp(-t / 0.01)) * Math.exp(-t / 0.07) * 0.6 +
      Math.sin(tau * body * 1.83 * t) * Math.exp(-t / 0.04) * 0.3;
    out[i] = (skin + wires[i] * Math.exp(-t / decay) * 1.1) * note.velocity * 0.62 * Math.min(1, (length - i) / 300);
  }
  return out;
};

export const rim: Voice = (note) => {
  const length = frames(note, 0.09),
    out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    out[i] =
      (Math.sin(tau * 1720 * t) * 0.5 + Math.sin(tau * 520 * t) * 0.5 + (note.random() - 0.5) * 0.3) *
      Math.exp(-t / 0.012) *
      note.velocity *
      0.7;
  }
  return out;
};

/** Four bursts of band-passed noise, 11 ms apart, the last one ringing. */
export const clap: Voice = (note) => {
  const length = frames(note, 0.3),
    source = filterSignal(noise(note, length), bandFilter(1150 + 500 * note.tone, 1.1, note.rateHz)),
    out = new Float32Array(length);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    let gain = 0;
    for (let burst = 0; burst < 4; burst++) {
      const since = t - burst * 0.011;
      if (since >= 0) gain = Math.max(gain, Math.exp(-since / (burst === 3 ? 0.07 : 0.006)));
    }
    out[i] = source[i] * gain * note.velocity * 1.5 * Math.min(1, (length - i) / 300);
  }
  return out;
};

const metalRatios = [1, 1.342, 1.2312, 1.6532, 1.9523, 2.1523];

/** Six square waves of unrelated pitch with noise, high-passed: the metal of hats, rides and crashes. */
function metal(note: VoiceNote, decay: number, seconds: number, edgeHz: number, noiseShare: number): Float32Array {
  const length = frames(note, seconds),
    raw = new Float32Array(length),
    base = 310 + 80 * note.tone;
  for (let i = 0; i < length; i++) {
    let sum = 0;
    for (const ratio of metalRatios) sum += withinTurn((base * ratio * i) / note.rateHz) < 0.5 ? 1 : -1;
    raw[i] = (sum / 6) * (1 - noiseShare) + (note.random() * 2 - 1) * noiseShare;
  }
  const high = filterSignal(filterSignal(raw, passFilter('high', edgeHz, note.rateHz)), passFilter('high', edgeHz * 0.8, note.rateHz));
  const bright = passFilter('low', 7000 + 9000 * note.velocity, note.rateHz);
  return shaped(
    filterSignal(high, bright),
    (value, i) =>
      value * Math.exp(-i / note.rateHz / decay) * note.velocity * 0.9 * Math.min(1, (i + 1) / 20) * Math.min(1, (length - i) / 400),
  );
}

export const closedHat: Voice = (note) => metal(note, 0.018 + 0.03 * note.velocity * (1 - note.tone * 0.4), 0.16, 6800, 0.55);
export const openHat: Voice = (note) => metal(note, 0.16, 0.5, 6200, 0.45);
export const ride: Voice = (note) => metal(note, 0.4, 1, 4200, 0.25);
export const crash: Voice = (note) => metal(note, 0.7, 2.2, 3200, 0.6);

/** A tuned drum: `hz` is its pitch. */
export const tom: Voice = (note) => {
  const length = frames(note, 0.55),
    out = new Float32Array(length);
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    phase += (note.hz * (1 + 0.5 * Math.exp(-t / 0.03))) / note.rateHz;
    out[i] =
      (Math.sin(tau * phase) * Math.exp(-t / 0.14) + (note.random() - 0.5) * 0.25 * Math.exp(-t / 0.01)) *
      note.velocity *
      0.75 *
      Math.min(1, (length - i) / 400);
  }
  return out;
};
