import { envelope, saw, StateVariable, tau, withinTurn, type Voice, type VoiceNote } from '../voice';
import { render } from './render-voice';

/** Several detuned saws through a slow filter: strings, pads and brass are settings of this. */
function ensemble(
  note: VoiceNote,
  options: { voices: number; detuneCents: number; attack: number; release: number; cutoffHz: number; sweep: number; vibrato: number },
): Float32Array {
  const { voices, detuneCents, attack, release, cutoffHz, sweep, vibrato } = options;
  const rows = Array.from({ length: voices }, (_, k) => ({
    phase: note.random(),
    ratio: 2 ** (((voices === 1 ? 0 : (k / (voices - 1)) * 2 - 1) * detuneCents + (note.random() - 0.5) * 3) / 1200),
    speed: 4.6 + note.random(),
    start: note.random(),
  }));
  const filter = new StateVariable(note.rateHz),
    { rateHz } = note;
  const length = Math.round((note.heldSeconds + release * 3) * rateHz),
    out = new Float32Array(length);
  for (const row of rows) {
    let phase = row.phase,
      step = 0;
    for (let i = 0; i < length; i++) {
      if (i % 32 === 0) {
        const t = i / rateHz;
        step = (note.hz * row.ratio * (1 + vibrato * Math.min(1, t / 0.5) * Math.sin(tau * (row.speed * t + row.start)))) / rateHz;
      }
      phase += step;
      if (phase >= 1) phase -= 1;
      out[i] += saw(phase, step);
    }
  }
  const scale = (note.velocity * 0.42) / Math.sqrt(voices),
    cutoff = cutoffHz * (0.5 + 0.5 * note.velocity);
  for (let i = 0; i < length; i++) {
    const t = i / rateHz,
      open = envelope(t, note.heldSeconds, attack * 1.3, 1.5, 0.7, release);
    out[i] =
      filter.step(out[i], cutoff + sweep * open, 0.1) *
      envelope(t, note.heldSeconds, attack, 2, 0.85, release) *
      scale *
      Math.min(1, (length - i) / 256);
  }
  return out;
}

export const stringSection: Voice = (note) =>
  ensemble(note, {
    voices: 5,
    detuneCents: 11,
    attack: 0.09,
    release: 0.14,
    cutoffHz: 900 + 1500 * note.tone,
    sweep: 1400,
    vibrato: 0.0035,
  });
export const cello: Voice = (note) =>
  ensemble(note, { voices: 1, detuneCents: 0, attack: 0.06, release: 0.1, cutoffHz: 700 + 900 * note.tone, sweep: 1100, vibrato: 0.006 });
export const pad: Voice = (note) =>
  ensemble(note, {
    voices: 4,
    detuneCents: 14,
    attack: 0.35 - 0.2 * note.tone,
    release: 0.4,
    cutoffHz: 350 + 800 * note.tone,
    sweep: 700,
    vibrato: 0.001,
  });
export const brass: Voice = (note) =>
  ensemble(note, {
    voices: 3,
    detuneCents: 6,
    attack: 0.035,
    release: 0.06,
    cutoffHz: 350,
    sweep: 1800 + 2600 * note.velocity * (0.5 + note.tone),
    vibrato: 0.002,
  });

export const lead: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let a = note.random(),
    b = note.random();
  return render(note, 0.15, (t) => {
    const bend = 1 + 0.004 * Math.min(1, t / 0.3) * Math.sin(tau * 5.4 * t);
    const step = (note.hz * bend) / note.rateHz;
    a = withinTurn(a + step);
    b = withinTurn(b + step * 1.004);
    const raw = note.tone < 0.5 ? saw(a, step) + saw(b, step) : saw(a, step) - saw(withinTurn(a + 0.35), step);
    return (
      filter.step(raw * 0.5, 900 + 2500 * note.tone + 2200 * Math.exp(-t / 0.2) * note.velocity, 0.3) *
      envelope(t, note.heldSeconds, 0.008, 0.8, 0.65, 0.07) *
      note.velocity *
      0.6
    );
  });
};

export const synthPluck: Voice = (note) => {
  const filter = new StateVariable(note.rateHz);
  let a = note.random(),
    b = note.random();
  const step = note.hz / note.rateHz;
  return render({ ...note, heldSeconds: Math.max(0.1, note.heldSeconds) }, 0.3, (t) => {
    a = withinTurn(a + step);
    b = withinTurn(b + step * 1.006);
    return (
      filter.step((saw(a, step) + saw(b, step)) * 0.5, 250 + (1500 + 4000 * note.tone) * note.velocity * Math.exp(-t / 0.09), 0.25) *
      envelope(t, 0.1, 0.002, 0.16, 0.1, 0.18) *
      note.velocity *
      0.8
    );
  });
};
