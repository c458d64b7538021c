import { envelope, onePole, saw, StateVariable, tau, withinTurn, type Voice, type VoiceNote } from '../voice';
import { render } from './render-voice';

/** Plucked string (Karplus & Strong 1983; Jaffe & Smith 1983: fractional delay and tone filter). */
export function pluckedString(note: VoiceNote, brightness: number, decaySeconds: number, pick: number, release = 0.12): Float32Array {
  const period = note.rateHz / note.hz - 0.5,
    whole = Math.floor(period),
    fraction = period - whole;
  const line = new Float32Array(whole + 2);
  const smooth = onePole(600 + 9000 * brightness * (0.4 + 0.6 * note.velocity), note.rateHz);
  let last = 0;
  for (let i = 0; i < line.length; i++) {
    last += smooth * (note.random() * 2 - 1 - last);
    line[i] = last;
  }
  const comb = Math.max(1, Math.round(whole * pick));
  const excited = line.map((value, i) => value - line[(i + line.length - comb) % line.length] * 0.9);
  const mean = excited.reduce((a, b) => a + b, 0) / excited.length;
  const scale = 0.75 / (Math.max(...excited.map(Math.abs)) || 1);
  for (let i = 0; i < line.length; i++) line[i] = (excited[i] - mean) * scale;
  const loss = 10 ** (-3 / decaySeconds / note.hz);
  let at = 0,
    previous = 0;
  return render(note, release * 3, (t) => {
    const next = at + 1 === line.length ? 0 : at + 1,
      older = line[next],
      newer = line[next + 1 === line.length ? 0 : next + 1];
    const read = older * fraction + newer * (1 - fraction);
    const averaged = 0.5 * (read + previous);
    previous = read;
    line[at] = averaged * loss;
    at = next;
    return read * note.velocity * (t < note.heldSeconds ? 1 : Math.exp(-(t - note.heldSeconds) / release)) * Math.min(1, t / 0.0008);
  });
}

export const nylonGuitar: Voice = (note) => pluckedString(note, 0.25 + 0.3 * note.tone, 2.2, 0.18);
export const steelGuitar: Voice = (note) => pluckedString(note, 0.6 + 0.4 * note.tone, 3, 0.12);
export const banjo: Voice = (note) => pluckedString(note, 1, 0.7, 0.08, 0.05);
export const harp: Voice = (note) =>
  pluckedString({ ...note, heldSeconds: Math.max(note.heldSeconds, 0.8) }, 0.35 + 0.2 * note.tone, 2.5, 0.4, 0.4);
export const pizzicato: Voice = (note) => pluckedString({ ...note, heldSeconds: 0.12 }, 0.3, 0.5, 0.3, 0.09);

/** Fingered bass: a plucked string with a dark tone and a little growl. */
export const fingeredBass: Voice = (note) => {
  const string = pluckedString(note, 0.12 + 0.22 * note.tone, 2.4, 0.22, 0.05);
  let low = 0,
    phase = 0;
  const g = onePole(900 + 1600 * note.tone, note.rateHz);
  return string.map((value, i) => {
    low += g * (value - low);
    phase += note.hz / note.rateHz;
    const t = i / note.rateHz;
    const body = Math.sin(tau * phase) * envelope(t, note.heldSeconds, 0.004, 0.5, 0.35, 0.05) * 0.5 * note.velocity;
    return Math.tanh(1.4 * (low * 0.9 + body)) * 0.8;
  });
};

/** Upright bass: slower start, woody body, short ring. */
export const uprightBass: Voice = (note) => {
  const string = pluckedString(note, 0.08 + 0.1 * note.tone, 1.1, 0.3, 0.07);
  let phase = 0;
  return string.map((value, i) => {
    phase += note.hz / note.rateHz;
    const t = i / note.rateHz;
    return (
      Math.tanh(
        1.2 *
          (value * 0.7 +
            (Math.sin(tau * phase) + 0.3 * Math.sin(tau * 2 * phase)) *
              envelope(t, note.heldSeconds, 0.012, 0.35, 0.12, 0.06) *
              0.55 *
              note.velocity),
      ) * 0.85
    );
  });
};

/** Saw or square through a falling filter. */
export const synthBass: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let phase = 0,
    sub = 0;
  const step = note.hz / note.rateHz;
  return render(note, 0.08, (t) => {
    phase = withinTurn(phase + step);
    sub = withinTurn(sub + step / 2);
    const raw = note.tone < 0.5 ? saw(phase, step) : saw(phase, step) - saw(withinTurn(phase + 0.5), step);
    const cutoff = 120 + (500 + 2600 * note.tone) * note.velocity * Math.exp(-t / 0.12) + note.hz * 1.5;
    const sound = filter.step(raw * 0.6 + Math.sin(tau * sub) * 0.25, cutoff, 0.35 + 0.35 * note.tone);
    return Math.tanh(1.5 * sound) * envelope(t, note.heldSeconds, 0.003, 0.4, 0.6, 0.03) * note.velocity * 0.8;
  });
};

export const subBass: Voice = (note) => {
  let phase = 0;
  return render(note, 0.12, (t) => {
    phase += note.hz / note.rateHz;
    return (
      Math.tanh((1.1 + note.tone) * Math.sin(tau * phase)) * envelope(t, note.heldSeconds, 0.008, 1.2, 0.75, 0.04) * note.velocity * 0.75
    );
  });
};
