import type { Voice } from '../../core/synth/voice';
import type { Chance } from './chance';
import { sweepFilter, tau, wave } from './signal';

/**
 * Voices with everything drawn at random: an electronic kick of one producer has little in common with that of another, so a
 * detector has to hear thousands. Every draw of `chance` gives another instrument; what it renders is fixed then.
 */
type Maker = (chance: Chance) => Voice;

interface Tone {
  readonly shapes: readonly number[];
  readonly voices: number;
  readonly detuneCents: number;
  readonly width: number;
  readonly attack: number;
  readonly decay: number;
  readonly sustain: number;
  readonly release: number;
  readonly cutoffHz: number;
  readonly sweepOctaves: number;
  readonly sweepSeconds: number;
  readonly resonance: number;
  readonly subGain: number;
  readonly noise: number;
  readonly vibratoCents: number;
  readonly vibratoHz: number;
  readonly drive: number;
  readonly fmRatio: number;
  readonly fmDepth: number;
  readonly formants: readonly (readonly [number, number])[] | null;
  readonly glideSeconds: number;
}

function toneVoice(tone: Tone): Voice {
  return ({ hz, velocity, heldSeconds, rateHz, random }) => {
    const length = Math.ceil((heldSeconds + Math.min(2.5, tone.release * 5)) * rateHz),
      out = new Float32Array(length);
    const copies = Array.from({ length: tone.voices }, (_, k) => ({
      ratio: 2 ** ((tone.voices === 1 ? 0 : (k / (tone.voices - 1) - 0.5) * 2 * tone.detuneCents) / 1200),
      phase: random(),
      shape: tone.shapes[k % tone.shapes.length],
    }));
    let sub = 0,
      modulator = 0;
    for (let i = 0; i < length; i++) {
      const t = i / rateHz,
        at = Math.min(t, heldSeconds);
      const level =
        (at < tone.attack ? at / tone.attack : tone.sustain + (1 - tone.sustain) * Math.exp(-(at - tone.attack) / tone.decay)) *
        (t > heldSeconds ? Math.exp(-(t - heldSeconds) / tone.release) : 1);
      if (level < 1e-5 && t > 0.05) break;
      const bend =
        2 **
        ((tone.vibratoCents * Math.sin(tau * tone.vibratoHz * t) * Math.min(1, t / 0.4)) / 1200 +
          (tone.glideSeconds > 0 ? 0.25 * Math.exp(-t / tone.glideSeconds) : 0));
      const step = (hz * bend) / rateHz;
      modulator += step * tone.fmRatio;
      const fm = tone.fmDepth * Math.sin(tau * modulator) * (0.4 + 0.6 * level);
      let sum = 0;
      for (const copy of copies) {
        copy.phase += step * copy.ratio;
        sum += wave(copy.shape, copy.phase + fm, tone.width);
      }
      sub += step / 2;
      out[i] = level * (sum / Math.sqrt(copies.length) + tone.subGain * Math.sin(tau * sub) + tone.noise * (random() * 2 - 1));
    }
    if (tone.formants) {
      const mixed = new Float32Array(length);
      for (const [formantHz, gain] of tone.formants) {
        const copy = out.slice();
        sweepFilter(copy, rateHz, () => formantHz, 7, 'band');
        for (let i = 0; i < length; i++) mixed[i] += copy[i] * gain;
      }
      out.set(mixed);
    } else
      sweepFilter(
        out,
        rateHz,
        (t) =>
          Math.max(80, Math.min(7000, tone.cutoffHz * 2 ** (tone.sweepOctaves * Math.exp(-t / tone.sweepSeconds)) * (hz / 220) ** 0.3)),
        tone.resonance,
        'low',
      );
    const gain = 1 + tone.drive * 6;
    for (let i = 0; i < length; i++) out[i] = (Math.tanh(out[i] * gain) / gain ** 0.5) * velocity * 0.6;
    return out;
  };
}

const tone = (chance: Chance, changes: Partial<Tone>): Tone => ({
  shapes: [chance.pick([1, 1, 2, 3])],
  voices: 1,
  detuneCents: 0,
  width: chance.between(0.15, 0.5),
  attack: 0.005,
  decay: chance.ratio(0.1, 1),
  sustain: chance.between(0.2, 0.9),
  release: chance.ratio(0.03, 0.2),
  cutoffHz: chance.ratio(500, 5000),
  sweepOctaves: chance.between(0, 2.5),
  sweepSeconds: chance.ratio(0.05, 0.6),
  resonance: chance.between(0.6, 4),
  subGain: 0,
  noise: chance.yes(0.2) ? 0.03 : 0,
  vibratoCents: 0,
  vibratoHz: 5.5,
  drive: chance.yes(0.4) ? chance.between(0, 1) : 0,
  fmRatio: 1,
  fmDepth: 0,
  formants: null,
  glideSeconds: 0,
  ...changes,
});

/** Formants of five vowels: first three of an average speaker (Peterson & Barney 1952, rounded). */
const vowels = [
  [730, 1090, 2440],
  [530, 1840, 2480],
  [270, 2290, 3010],
  [570, 840, 2410],
  [300, 870, 2240],
];

export const randomTones: Readonly<Record<string, Maker>> = {
  'synth-bass': (c) =>
    toneVoice(
      tone(c, {
        cutoffHz: c.ratio(150, 1800),
        subGain: c.between(0, 0.8),
        voices: c.pick([1, 1, 2, 3]),
        detuneCents: c.between(4, 18),
        decay: c.ratio(0.08, 0.8),
        sustain: c.between(0, 0.9),
        fmDepth: c.yes(0.25) ? c.between(0.1, 0.8) : 0,
        fmRatio: c.pick([0.5, 1, 2]),
      }),
    ),
  'sub-bass': (c) =>
    toneVoice(
      tone(c, {
        shapes: [c.pick([0, 0, 3])],
        cutoffHz: c.ratio(120, 500),
        sweepOctaves: 0,
        sustain: c.between(0.5, 1),
        drive: c.pick([0, 0, 0.1, 0.4]),
        noise: 0,
        glideSeconds: c.pick([0, 0, 0.03]),
      }),
    ),
  'synth-lead': (c) =>
    toneVoice(
      tone(c, {
        voices: c.pick([1, 1, 2, 3, 5]),
        detuneCents: c.between(5, 25),
        cutoffHz: c.ratio(900, 6500),
        sustain: c.between(0.5, 1),
        attack: c.ratio(0.002, 0.05),
        vibratoCents: c.pick([0, 8, 20]),
        vibratoHz: c.between(4.5, 6.5),
        fmDepth: c.yes(0.25) ? c.between(0.1, 1) : 0,
        fmRatio: c.pick([1, 2, 3, 0.5]),
      }),
    ),
  'synth-pluck': (c) =>
    toneVoice(
      tone(c, {
        voices: c.pick([1, 2, 3]),
        detuneCents: c.between(3, 18),
        decay: c.ratio(0.06, 0.35),
        sustain: 0,
        sweepOctaves: c.between(1, 3),
        sweepSeconds: c.ratio(0.03, 0.2),
        cutoffHz: c.ratio(400, 2500),
        fmDepth: c.yes(0.35) ? c.between(0.1, 1) : 0,
        fmRatio: c.pick([1, 2, 3, 4]),
        release: c.ratio(0.05, 0.3),
      }),
    ),
  'synth-pad': (c) =>
    toneVoice(
      tone(c, {
        shapes: c.pick([[1], [2], [1, 3], [3]]),
        voices: c.pick([2, 3, 4, 5]),
        detuneCents: c.between(5, 25),
        attack: c.ratio(0.05, 0.8),
        decay: 1,
        sustain: c.between(0.7, 1),
        release: c.ratio(0.2, 1),
        cutoffHz: c.ratio(350, 3500),
        sweepOctaves: c.between(-0.5, 1),
        sweepSeconds: c.between(0.5, 3),
      }),
    ),
  voice: (c) => {
    const vowel = c.pick(vowels),
      size = c.between(0.9, 1.25);
    return toneVoice(
      tone(c, {
        shapes: [1],
        voices: c.pick([1, 1, 2]),
        detuneCents: 8,
        attack: c.ratio(0.02, 0.12),
        sustain: 0.9,
        release: c.ratio(0.05, 0.2),
        vibratoCents: c.between(8, 35),
        vibratoHz: c.between(4.5, 6.5),
        noise: c.between(0.01, 0.08),
        drive: 0,
        formants: vowel.map((hz, k) => [hz * size, [1, 0.6, 0.3][k]] as const),
      }),
    );
  },
  choir: (c) => {
    const vowel = c.pick(vowels),
      size = c.between(0.9, 1.25);
    return toneVoice(
      tone(c, {
        shapes: [1],
        voices: c.pick([3, 4, 5]),
        detuneCents: c.between(10, 25),
        attack: c.ratio(0.05, 0.3),
        sustain: 0.95,
        release: c.ratio(0.15, 0.5),
        vibratoCents: c.between(5, 20),
        vibratoHz: c.between(4.5, 6),
        noise: c.between(0.02, 0.08),
        drive: 0,
        formants: vowel.map((hz, k) => [hz * size, [1, 0.6, 0.3][k]] as const),
      }),
    );
  },
  'electric-piano': (c) =>
    toneVoice(
      tone(c, {
        shapes: [0],
        decay: c.ratio(0.5, 1.6),
        sustain: 0,
        release: 0.12,
        cutoffHz: 6000,
        sweepOctaves: 0,
        fmRatio: c.pick([1, 1, 14, 2]),
        fmDepth: c.between(0.1, 0.45),
        drive: c.pick([0, 0.1, 0.3]),
      }),
    ),
  bells: (c) =>
    toneVoice(
      tone(c, {
        shapes: [0],
        decay: c.ratio(0.4, 2),
        sustain: 0,
        release: c.ratio(0.3, 1),
        cutoffHz: 7000,
        sweepOctaves: 0,
        fmRatio: c.pick([3.5, 2.76, 1.41, 5.4, 7]),
        fmDepth: c.between(0.15, 0.9),
        drive: 0,
      }),
    ),
  organ: (c) =>
    toneVoice(
      tone(c, {
        shapes: [0],
        voices: 1,
        decay: 1,
        sustain: 1,
        release: 0.03,
        cutoffHz: 6000,
        sweepOctaves: 0,
        fmRatio: c.pick([1, 2, 3]),
        fmDepth: c.between(0.15, 0.5),
        vibratoCents: c.pick([0, 6, 14]),
        vibratoHz: 6.4,
      }),
    ),
};
