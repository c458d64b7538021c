import { addPartial, envelope, onePole, StateVariable, tau, type Voice } from '../voice';
import { render } from './render-voice';
import { pluckedString } from './plucked';

/** Tine piano by two-operator FM with a bell-like partial that dies first (Chowning 1973). */
export const electricPiano: Voice = (note) => {
  const index = (0.5 + 1.8 * note.velocity) * (0.6 + 0.8 * note.tone);
  return render(note, 0.35, (t) => {
    const w = tau * note.hz * t;
    const tine = Math.sin(14 * w) * Math.exp(-t / 0.06) * 0.12 * note.velocity;
    const body = Math.sin(w + index * Math.exp(-t / 0.35) * Math.sin(w) + tine);
    return (
      (body * 0.75 + 0.15 * Math.sin(2 * w) * Math.exp(-t / 0.5)) *
      envelope(t, note.heldSeconds, 0.003, 1.1, 0.12, 0.11) *
      note.velocity *
      0.7
    );
  });
};

/** Struck strings: partials slightly sharp of harmonic, high ones dying sooner, and a felt thump. */
export const piano: Voice = (note) => {
  const partials = Math.min(16, Math.floor(9000 / note.hz)),
    stretch = 0.0003 + 0.0002 * (note.hz / 500);
  const rows = Array.from({ length: partials }, (_, k) => {
    const n = k + 1;
    return {
      hz: note.hz * n * Math.sqrt(1 + stretch * n * n),
      gain: Math.abs(Math.sin(n * Math.PI * 0.12)) / n ** (1.7 - 0.7 * note.velocity - 0.4 * note.tone),
      decay: (2.2 * Math.sqrt(200 / note.hz)) / (1 + 0.35 * k),
      phase: note.random(),
    };
  });
  const norm = 1.44 / rows.reduce((sum, row) => sum + row.gain, 0);
  const strings = new Float32Array(Math.round((note.heldSeconds + 0.3) * note.rateHz));
  for (const row of rows) {
    addPartial(strings, row.hz, row.gain * norm * 0.75, row.phase, row.decay, note.rateHz);
    addPartial(strings, row.hz, row.gain * norm * 0.25, row.phase, row.decay * 0.15, note.rateHz);
  }
  let thump = 0;
  const g = onePole(350, note.rateHz);
  return render(note, 0.3, (t, i) => {
    thump += g * (note.random() * 2 - 1 - thump);
    return (
      (strings[i] + thump * Math.exp(-t / 0.02) * 0.5) *
      Math.min(1, t / 0.0015) *
      (t < note.heldSeconds ? 1 : Math.exp(-(t - note.heldSeconds) / 0.08)) *
      note.velocity
    );
  });
};

/** The strengths of the drawbars, by their multiple of the lowest, which stands an octave under the note. */
const drawbars = [
  [1, 0.6],
  [2, 1],
  [3, 0.5],
  [4, 0.7],
  [6, 0.35],
  [8, 0.3],
  [12, 0.15],
] as const;
export const organ: Voice = (note) => {
  const highest = drawbars[drawbars.length - 1][0],
    gains = new Float64Array(highest + 1);
  drawbars.forEach(([multiple, gain], k) => (gains[multiple] = gain * (k > 3 ? note.tone * 1.5 : 1)));
  return render(note, 0.06, (t) => {
    const wobble = 0.0025 * Math.sin(tau * 6.3 * t),
      angle = 0.5 * (tau * note.hz * t + 0.4 * wobble * note.hz),
      twice = 2 * Math.cos(angle);
    // All are multiples of one angle, and sin (n + 1)x = 2 cos x · sin nx − sin (n − 1)x: a sine and a cosine instead of seven sines.
    let before = 0,
      now = Math.sin(angle),
      sum = 0;
    for (let multiple = 1; multiple <= highest; multiple++) {
      sum += gains[multiple] * now;
      const next = twice * now - before;
      before = now;
      now = next;
    }
    return sum * 0.22 * envelope(t, note.heldSeconds, 0.006, 1, 1, 0.02) * (0.5 + 0.5 * note.velocity);
  });
};

export const clavinet: Voice = (note) => {
  const string = pluckedString({ ...note, heldSeconds: Math.min(note.heldSeconds, 0.5) }, 1, 0.8, 0.1, 0.02);
  const filter = new StateVariable(note.rateHz);
  return string.map((value) => {
    filter.step(value, 900 + 1800 * note.tone, 0.5);
    return Math.tanh(2 * (filter.band + value * 0.4)) * 0.55;
  });
};
