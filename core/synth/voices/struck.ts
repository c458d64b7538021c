import { addPartial, tau, type Voice, type VoiceNote } from '../voice';
import { pluckedString } from './plucked';
import { voice as singer } from './mallets';

/** Bars and plates by their partials: ratio, gain, seconds of decay at 440 Hz (Fletcher & Rossing 1998, rounded, from memory). */
type Partials = readonly (readonly [ratio: number, gain: number, decay: number])[];

const struck =
  (
    partials: Partials,
    { seconds, tremoloHz = 0, clickGain = 0 }: { readonly seconds: number; readonly tremoloHz?: number; readonly clickGain?: number },
  ): Voice =>
  (note) => {
    const out = new Float32Array(Math.round(seconds * note.rateHz)),
      slower = Math.sqrt(440 / note.hz);
    for (const [ratio, gain, decay] of partials)
      // Nothing folds back from beyond half the rate.
      if (note.hz * ratio < 0.45 * note.rateHz)
        addPartial(out, note.hz * ratio, gain * 0.62 * note.velocity, 0, Math.max(0.02, decay * slower), note.rateHz);
    const damped = note.heldSeconds + 0.08;
    return out.map((value, i) => {
      const t = i / note.rateHz,
        click = clickGain * note.velocity * (note.random() * 2 - 1) * Math.exp(-t / 0.004),
        wave = tremoloHz > 0 ? 0.8 + 0.2 * Math.sin(tau * tremoloHz * t) : 1,
        // What is held rings on; what is let go is damped a little.
        hold = tremoloHz > 0 && t > damped ? Math.exp(-(t - damped) / 0.25) : 1;
      return (value * wave * hold + click) * Math.min(1, t / 0.0012) * Math.min(1, (out.length - i) / 512);
    });
  };

export const vibraphoneBar = struck(
  [
    [1, 1, 1.6],
    [4, 0.25, 0.4],
    [9.9, 0.08, 0.1],
  ],
  { seconds: 2.6, tremoloHz: 5.2 },
);
export const glockenspielBar = struck(
  [
    [1, 1, 0.9],
    [2.76, 0.4, 0.5],
    [5.4, 0.2, 0.2],
  ],
  { seconds: 2, clickGain: 0.06 },
);
export const xylophoneBar = struck(
  [
    [1, 1, 0.16],
    [3, 0.4, 0.08],
    [6.2, 0.18, 0.03],
  ],
  { seconds: 0.9, clickGain: 0.2 },
);
export const celestaPlate = struck(
  [
    [1, 1, 0.9],
    [2, 0.22, 0.5],
    [4.1, 0.12, 0.15],
  ],
  { seconds: 1.8 },
);
export const musicBoxTongue = struck(
  [
    [1, 1, 0.7],
    [3.01, 0.25, 0.3],
    [6.3, 0.3, 0.08],
  ],
  { seconds: 1.6, clickGain: 0.1 },
);
export const steelPan = struck(
  [
    [1, 1, 0.5],
    [2, 0.6, 0.35],
    [3.01, 0.35, 0.25],
    [4.03, 0.2, 0.15],
  ],
  { seconds: 1.4, clickGain: 0.08 },
);
export const timpani: Voice = (note) =>
  struck(
    [
      [1, 1, 0.9],
      [1.5, 0.6, 0.7],
      [1.98, 0.4, 0.6],
      [2.44, 0.25, 0.5],
    ],
    { seconds: 2.2, clickGain: 0.25 },
  )(note);

/** Two choirs of quills, the second an octave higher. */
export const harpsichordQuill: Voice = (note) => {
  const eight = pluckedString(note, 1, 5, 0.16, 0.06),
    four = note.hz * 2 < 5000 ? pluckedString({ ...note, hz: note.hz * 2 }, 1, 3, 0.16, 0.06) : null;
  return eight.map((value, i) => Math.tanh((value + 0.6 * (four?.[i] ?? 0)) * 1.5) * 0.8);
};
/** A pick near the bridge, long strings, a body that lifts nothing. */
export const electricString: Voice = (note) =>
  pluckedString(note, 0.5 + 0.35 * note.tone, 4.5, 0.14, 0.09).map((value) => Math.tanh(1.3 * value) * 0.8);
export const mandolinString: Voice = (note) => doubled(note, 0.8, 0.9, 0.1);
export const ukuleleString: Voice = (note) => pluckedString(note, 0.35, 0.8, 0.25, 0.08);
export const sitarString: Voice = (note) => doubled(note, 1, 2.4, 0.05);
export const kotoString: Voice = (note) => pluckedString({ ...note, heldSeconds: Math.max(note.heldSeconds, 0.6) }, 0.85, 1.6, 0.08, 0.3);

/** Strings in pairs, a hair apart. */
function doubled(note: VoiceNote, brightness: number, decaySeconds: number, pick: number): Float32Array {
  const first = pluckedString(note, brightness, decaySeconds, pick),
    second = pluckedString({ ...note, hz: note.hz * 1.0023 }, brightness, decaySeconds, pick);
  return first.map((value, i) => (value + (second[i] ?? 0)) * 0.55);
}

/** Several singers on one vowel. */
export const singers: Voice = (note) => {
  const all = [-9, 2, 10].map((cents) => singer({ ...note, hz: note.hz * 2 ** (cents / 1200) }));
  return all[0].map((value, i) => (value + all[1][i] + all[2][i]) * 0.42);
};
