import { addPartial, envelope, saw, StateVariable, tau, withinTurn, type Voice } from '../voice';
import { render } from './render-voice';

/** Wooden bars: the fourth partial of a tuned bar sounds two octaves up (Fletcher & Rossing 1998). */
export const marimba: Voice = (note) =>
  render(
    { ...note, heldSeconds: 0.05 },
    0.7,
    (t) =>
      (Math.sin(tau * note.hz * t) * Math.exp(-t / (0.2 + 40 / note.hz)) +
        0.3 * Math.sin(tau * note.hz * 3.93 * t) * Math.exp(-t / 0.05) +
        0.1 * Math.sin(tau * note.hz * 9.2 * t) * Math.exp(-t / 0.015)) *
      Math.min(1, t / 0.001) *
      note.velocity *
      0.7,
  );

/** Thumbed tongues of steel: soft start, a clang at 5.4 times. */
export const kalimba: Voice = (note) =>
  render(
    { ...note, heldSeconds: 0.05 },
    1.1,
    (t) =>
      (Math.sin(tau * note.hz * t) * Math.exp(-t / 0.4) + 0.16 * Math.sin(tau * note.hz * 5.4 * t) * Math.exp(-t / 0.04)) *
      Math.min(1, t / 0.002) *
      note.velocity *
      0.7,
  );

const bellRatios = [
  [0.5, 0.4, 1],
  [1, 1, 0.9],
  [1.19, 0.5, 0.6],
  [1.56, 0.25, 0.5],
  [2, 0.5, 0.4],
  [2.76, 0.25, 0.25],
  [4.1, 0.15, 0.15],
] as const;
export const bell: Voice = (note) => {
  const ring = new Float32Array(Math.round(2.05 * note.rateHz));
  for (const [ratio, gain, decay] of bellRatios) addPartial(ring, note.hz * ratio, gain * 0.28 * note.velocity, 0, decay, note.rateHz);
  return ring.map((value, i) => value * Math.min(1, i / note.rateHz / 0.001) * Math.min(1, (ring.length - i) / 256));
};

const vowels = { a: [730, 1090, 2440], o: [400, 760, 2400], e: [530, 1840, 2480] } as const; // Peterson & Barney 1952, rounded

/** A sung vowel: glottal saw through three formants; two vowels are morphed over the note. */
export const voice: Voice = (note) => {
  const filters = [0, 1, 2].map(() => new StateVariable(note.rateHz));
  const from = note.tone < 0.5 ? vowels.o : vowels.a,
    to = note.tone < 0.3 ? vowels.a : vowels.e;
  let phase = note.random(),
    breath = 0;
  return render(note, 0.25, (t) => {
    const step = (note.hz * (1 + 0.007 * Math.min(1, t / 0.4) * Math.sin(tau * 5.1 * t) - 0.02 * Math.exp(-t / 0.05))) / note.rateHz;
    phase = withinTurn(phase + step);
    breath = note.random() * 2 - 1;
    const source = saw(phase, step) * 0.8 + breath * 0.04,
      mix = Math.min(1, t / Math.max(0.2, note.heldSeconds));
    let sum = 0;
    filters.forEach((filter, k) => {
      filter.step(source, from[k] * (1 - mix) + to[k] * mix, 0.88);
      sum += filter.band * [1, 0.6, 0.25][k];
    });
    return sum * 0.5 * envelope(t, note.heldSeconds, 0.05, 1.5, 0.8, 0.08) * note.velocity;
  });
};

export const flute: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  return render(note, 0.15, (t) => {
    const w = tau * note.hz * t + ((0.03 * note.hz) / 100) * Math.sin(tau * 5 * t) * Math.min(1, t / 0.4);
    filter.step(note.random() * 2 - 1, note.hz * 1.02, 0.9);
    return (
      (Math.sin(w) + 0.25 * Math.sin(2 * w) + 0.08 * Math.sin(3 * w) + filter.band * 0.08) *
      envelope(t, note.heldSeconds, 0.05, 1, 0.9, 0.05) *
      note.velocity *
      0.6
    );
  });
};
