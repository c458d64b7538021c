import { saw, StateVariable, tau, withinTurn, type Voice } from '../voice';

/** Noise and saws that climb for the held time and stop: a riser lands where it ends. */
export const riser: Voice = (note) => {
  const length = Math.round(note.heldSeconds * note.rateHz),
    out = new Float32Array(length),
    filter = new StateVariable(note.rateHz);
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const share = i / length,
      step = (note.hz * 2 ** (share * 2)) / note.rateHz;
    phase = withinTurn(phase + step);
    const raw = (note.random() * 2 - 1) * (0.7 - 0.4 * note.tone) + saw(phase, step) * 0.5 * note.tone;
    out[i] =
      filter.step(raw, 250 + 9000 * share ** 2, 0.3) *
      (0.05 + 0.95 * share ** 1.8) *
      note.velocity *
      0.7 *
      Math.min(1, (length - i) / 300) *
      (1 + 0.3 * Math.sin(tau * 8 * share * note.heldSeconds));
  }
  return out;
};

export const downlifter: Voice = (note) => {
  const up = riser(note);
  return up.slice().reverse();
};

/** A low boom with a burst of noise and a long ring. */
export const impact: Voice = (note) => {
  const length = Math.round(2.8 * note.rateHz),
    out = new Float32Array(length),
    filter = new StateVariable(note.rateHz);
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz;
    phase += (34 + 20 * note.tone + 90 * Math.exp(-t / 0.06)) / note.rateHz;
    const burst = filter.step(note.random() * 2 - 1, 300 + 5000 * Math.exp(-t / 0.15), 0.1);
    out[i] =
      Math.tanh(1.8 * (Math.sin(tau * phase) * Math.exp(-t / 0.7) + burst * Math.exp(-t / 0.3) * 0.8)) *
      note.velocity *
      0.7 *
      Math.min(1, (length - i) / 4000);
  }
  return out;
};

/** Slow filtered noise like wind over water, with the held length. */
export const texture: Voice = (note) => {
  const length = Math.round(note.heldSeconds * note.rateHz),
    out = new Float32Array(length),
    filter = new StateVariable(note.rateHz);
  for (let i = 0; i < length; i++) {
    const t = i / note.rateHz,
      cycle = (tau * t) / note.heldSeconds;
    filter.step(note.random() * 2 - 1, 500 + 350 * Math.sin(cycle) + 150 * Math.sin(3 * cycle + 1) + 900 * note.tone, 0.6);
    out[i] = filter.band * (0.6 + 0.3 * Math.sin(cycle + 2)) * note.velocity * 0.35;
  }
  return out;
};
