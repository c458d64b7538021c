import { createRandom } from '../../core/synth/random';
import type { Voice } from '../../core/synth/voice';
import { noteToHz } from '../../core/units/pitch';
import type { Chance } from './chance';

/**
 * Voices with everything drawn at random: an electronic kick of one producer has little in common with that of another, so a
 * detector has to hear thousands. Every draw of `chance` gives another instrument; what it renders is fixed then.
 */
type Maker = (chance: Chance) => Voice;

const tau = 2 * Math.PI;

/** A resonant low-pass run over a signal with a cutoff that moves (state-variable filter; Chamberlin 1985). */
function sweepFilter(
  signal: Float32Array,
  rateHz: number,
  cutoff: (seconds: number) => number,
  resonance: number,
  kind: 'low' | 'band' | 'high',
): void {
  let low = 0,
    band = 0;
  const damping = Math.min(1.9, 1 / Math.max(0.5, resonance));
  let f = 0;
  for (let i = 0; i < signal.length; i++) {
    if (i % 32 === 0) f = 2 * Math.sin(Math.PI * Math.min(0.16, cutoff(i / rateHz) / rateHz));
    const high = signal[i] - low - damping * band;
    band += f * high;
    low += f * band;
    signal[i] = kind === 'low' ? low : kind === 'band' ? band : high;
  }
}

const wave = (shape: number, phase: number, width: number): number => {
  const p = phase - Math.floor(phase);
  if (shape === 0) return Math.sin(tau * p);
  if (shape === 1) return 2 * p - 1;
  if (shape === 2) return p < width ? 1 : -1;
  return 4 * Math.abs(p - 0.5) - 1;
};

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

/** A burst of noise through a filter, with an exponential decay. */
function noiseBurst(
  rateHz: number,
  seconds: number,
  decay: number,
  centreHz: number,
  resonance: number,
  kind: 'low' | 'band' | 'high',
  random: () => number,
  attack = 0.0005,
): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  for (let i = 0; i < out.length; i++) out[i] = random() * 2 - 1;
  sweepFilter(out, rateHz, () => centreHz, resonance, kind);
  if (centreHz > 4000) sweepFilter(out, rateHz, () => centreHz, resonance, kind);
  for (let i = 0; i < out.length; i++) out[i] *= Math.min(1, i / rateHz / attack) * Math.exp(-i / rateHz / decay);
  return out;
}

/** A sine that falls from `from` to `to` Hz. */
function drop(rateHz: number, seconds: number, from: number, to: number, fall: number, decay: number): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  let phase = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / rateHz;
    phase += (to + (from - to) * Math.exp(-t / fall)) / rateHz;
    out[i] = Math.sin(tau * phase) * Math.exp(-t / decay);
  }
  return out;
}

/** Six square waves at inharmonic ratios: the metal of drum machines (from memory). */
function metal(rateHz: number, seconds: number, baseHz: number, decay: number, cutHz: number, ratios: readonly number[]): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  for (const ratio of ratios) for (let i = 0; i < out.length; i++) out[i] += ((i * baseHz * ratio) / rateHz) % 1 < 0.5 ? 0.2 : -0.2;
  sweepFilter(out, rateHz, () => cutHz, 0.7, 'high');
  for (let i = 0; i < out.length; i++) out[i] *= Math.exp(-i / rateHz / decay);
  return out;
}

const sum = (...parts: readonly (readonly [Float32Array, number])[]): Float32Array => {
  const out = new Float32Array(Math.max(...parts.map(([part]) => part.length)));
  for (const [part, gain] of parts) for (let i = 0; i < part.length; i++) out[i] += part[i] * gain;
  return out;
};
const shaped = (sound: Float32Array, drive: number): Float32Array =>
  drive > 0 ? sound.map((value) => Math.tanh(value * (1 + drive * 5)) / (1 + drive * 1.5)) : sound;
const noisy = (seed: number) => createRandom(seed);

type HitMaker = (chance: Chance, rateHz: number) => Float32Array;

const kick: HitMaker = (c, r) => {
  const to = c.ratio(38, 75),
    decay = c.ratio(0.06, 1.1);
  return shaped(
    sum(
      [drop(r, decay * 5 + 0.1, to * c.ratio(2, 9), to, c.ratio(0.008, 0.06), decay), 1],
      [
        noiseBurst(r, 0.05, c.ratio(0.002, 0.01), c.ratio(1500, 6000), 1, c.pick(['band', 'high', 'low']), noisy(c.seed())),
        c.between(0, 0.6),
      ],
    ),
    c.pick([0, 0, 0.2, 0.8]),
  );
};
const snare: HitMaker = (c, r) => {
  const hz = c.ratio(140, 320),
    decay = c.ratio(0.05, 0.3);
  return shaped(
    sum(
      [drop(r, 0.5, hz * c.between(1, 1.8), hz, 0.015, c.ratio(0.03, 0.15)), c.between(0.15, 1)],
      [
        noiseBurst(r, decay * 5, decay, c.ratio(1200, 6500), c.between(0.5, 1.5), c.pick(['band', 'high', 'high']), noisy(c.seed())),
        c.between(0.5, 1.3),
      ],
    ),
    c.pick([0, 0, 0.3, 0.8]),
  );
};
const rim: HitMaker = (c, r) =>
  sum(
    [drop(r, 0.15, c.ratio(400, 1200), c.ratio(350, 900), 0.01, c.ratio(0.008, 0.04)), 1],
    [drop(r, 0.15, c.ratio(1500, 2800), c.ratio(1400, 2600), 0.01, c.ratio(0.005, 0.02)), 0.7],
    [noiseBurst(r, 0.04, 0.004, 3000, 1, 'band', noisy(c.seed())), 0.6],
  );
const clap: HitMaker = (c, r) => {
  const gap = c.between(0.006, 0.014),
    count = c.whole(2, 5),
    centre = c.ratio(800, 2500),
    tail = c.ratio(0.05, 0.3),
    out = new Float32Array(Math.ceil((gap * count + tail * 5) * r));
  for (let k = 0; k <= count; k++) {
    const burst = noiseBurst(
      r,
      k === count ? tail * 4 : 0.03,
      k === count ? tail : 0.006,
      centre,
      c.between(0.8, 3),
      'band',
      noisy(c.seed()),
    );
    for (let i = 0, at = Math.round(k * gap * r); i < burst.length && at < out.length; i++, at++) out[at] += burst[i];
  }
  return shaped(out, c.pick([0, 0, 0.4]));
};
const hat =
  (low: number, high: number): HitMaker =>
  (c, r) => {
    const decay = c.ratio(low, high);
    return c.yes(0.5)
      ? metal(
          r,
          decay * 5,
          c.ratio(200, 700),
          decay,
          c.ratio(4000, 6800),
          Array.from({ length: 6 }, () => c.between(1, 6.5)),
        )
      : noiseBurst(r, decay * 5, decay, c.ratio(4500, 6900), c.between(0.6, 2), 'high', noisy(c.seed()));
  };
const cymbal: HitMaker = (c, r) => {
  const decay = c.ratio(0.3, 1.6);
  return sum(
    [
      metal(
        r,
        decay * 3,
        c.ratio(250, 600),
        decay,
        c.ratio(2500, 5500),
        Array.from({ length: 8 }, () => c.between(1, 9)),
      ),
      c.between(0.3, 1),
    ],
    [noiseBurst(r, decay * 3, decay * 0.7, c.ratio(3500, 6500), 0.7, 'high', noisy(c.seed())), c.between(0.2, 0.9)],
  );
};
const tom: HitMaker = (c, r) => {
  const hz = c.ratio(60, 220),
    decay = c.ratio(0.12, 0.5);
  return shaped(
    sum(
      [drop(r, decay * 5, hz * c.between(1.1, 1.9), hz, c.ratio(0.02, 0.1), decay), 1],
      [noiseBurst(r, 0.1, c.ratio(0.005, 0.03), c.ratio(800, 3000), 1, 'band', noisy(c.seed())), c.between(0, 0.5)],
    ),
    c.pick([0, 0, 0.3]),
  );
};
const skin: HitMaker = (c, r) => {
  // Three ways of hitting a hand drum: the open tone, a bass that bends, a slap that rings or not.
  const way = c.pick(['tone', 'tone', 'bass', 'slap', 'ring'] as const),
    hz = way === 'bass' ? c.ratio(55, 140) : way === 'ring' ? c.ratio(250, 600) : c.ratio(150, 480),
    decay = way === 'ring' ? c.ratio(0.2, 0.9) : way === 'bass' ? c.ratio(0.1, 0.7) : c.ratio(0.04, 0.28),
    noise = way === 'slap' ? c.between(0.6, 2) : c.between(0.05, 0.7);
  return sum(
    [
      drop(
        r,
        decay * 5,
        hz * (way === 'bass' ? c.between(0.7, 1.4) : c.between(1, 1.15)),
        hz,
        way === 'bass' ? c.ratio(0.02, 0.15) : 0.02,
        decay,
      ),
      1,
    ],
    [drop(r, decay * 3, hz * c.between(1.5, 2.3), hz * c.between(1.5, 2.1), 0.02, decay * c.between(0.3, 0.8)), c.between(0.1, 0.7)],
    [drop(r, decay * 3, hz * c.between(2.4, 3.2), hz * 2.9, 0.02, decay * 0.4), c.between(0, 0.4)],
    [noiseBurst(r, 0.08, c.ratio(0.002, 0.02), c.ratio(900, 5000), 1, 'band', noisy(c.seed())), noise],
  );
};
/** Loaded skins as of the tabla: overtones that are nearly harmonic (Raman 1934) and ring, dead strokes, and a bass that bends upwards. */
const loadedSkin: HitMaker = (c, r) => {
  const way = c.pick(['ring', 'ring', 'dead', 'bass', 'mute'] as const);
  if (way === 'bass') {
    const hz = c.ratio(60, 130),
      decay = c.ratio(0.15, 0.9);
    return sum(
      [drop(r, decay * 4, hz, hz * c.between(1, 1.9), c.ratio(0.05, 0.4), decay), 1],
      [drop(r, decay * 2, hz * 2, hz * c.between(2, 3), c.ratio(0.05, 0.3), decay * 0.4), c.between(0, 0.5)],
      [noiseBurst(r, 0.1, c.ratio(0.003, 0.03), c.ratio(400, 3000), 1, 'band', noisy(c.seed())), c.between(0.1, 0.8)],
    );
  }
  const hz = c.ratio(180, 520),
    decay = way === 'ring' ? c.ratio(0.15, 0.8) : c.ratio(0.015, 0.09);
  return sum(
    ...[1, 2, 3, 4, 5].map(
      (overtone) =>
        [
          drop(r, decay * 5, hz * overtone * c.between(0.985, 1.015), hz * overtone, 1, (decay / overtone ** 0.5) * c.between(0.5, 1.2)),
          c.between(0.05, 1) / overtone ** 0.5,
        ] as const,
    ),
    [
      noiseBurst(r, 0.1, c.ratio(0.002, way === 'ring' ? 0.01 : 0.04), c.ratio(700, 5000), c.between(0.7, 2), 'band', noisy(c.seed())),
      c.between(0.2, way === 'ring' ? 0.8 : 2),
    ],
  );
};
const shake: HitMaker = (c, r) => {
  const decay = c.ratio(0.02, 0.09);
  return noiseBurst(
    r,
    decay * 6,
    decay,
    c.ratio(3500, 6900),
    c.between(0.7, 2.5),
    c.pick(['band', 'high']),
    noisy(c.seed()),
    c.ratio(0.004, 0.04),
  );
};
const jingle: HitMaker = (c, r) => {
  const decay = c.ratio(0.06, 0.25);
  return sum(
    [
      metal(
        r,
        decay * 5,
        c.ratio(1200, 2400),
        decay,
        5000,
        Array.from({ length: 6 }, () => c.between(1.5, 4)),
      ),
      1,
    ],
    [noiseBurst(r, decay * 4, decay * 0.5, 6500, 1, 'high', noisy(c.seed())), 0.6],
  );
};
const wood: HitMaker = (c, r) => {
  const hz = c.ratio(500, 2800),
    decay = c.ratio(0.01, 0.06);
  return sum(
    [drop(r, decay * 6, hz, hz, 1, decay), 1],
    [drop(r, decay * 6, hz * c.between(1.8, 3.1), hz * 2.5, 1, decay * 0.5), c.between(0.1, 0.5)],
  );
};
const cowbell: HitMaker = (c, r) => {
  const hz = c.ratio(350, 1100),
    decay = c.ratio(0.05, 0.5),
    out = new Float32Array(Math.ceil(decay * 5 * r)),
    second = c.between(1.35, 1.7);
  for (let i = 0; i < out.length; i++) out[i] = (((i * hz) / r) % 1 < 0.5 ? 0.4 : -0.4) + (((i * hz * second) / r) % 1 < 0.5 ? 0.4 : -0.4);
  sweepFilter(out, r, () => hz * 2, 2, 'band');
  for (let i = 0; i < out.length; i++) out[i] *= Math.exp(-i / r / decay);
  return out;
};
const ringing: HitMaker = (c, r) => {
  const hz = c.ratio(600, 4000),
    decay = c.ratio(0.1, 1.2);
  return sum(
    ...Array.from(
      { length: 5 },
      (_, k) =>
        [drop(r, decay * 4, hz * (1 + k * c.between(0.7, 1.6)), hz * (1 + k * 1.1), 1, decay / (1 + k * 0.5)), 1 / (1 + k)] as const,
    ),
  );
};

/** Makers of hits by General MIDI percussion key. */
const hitByKey = new Map<number, HitMaker>([
  ...[35, 36].map((key) => [key, kick] as const),
  ...[38, 40].map((key) => [key, snare] as const),
  [37, rim],
  [39, clap],
  ...[42, 44].map((key) => [key, hat(0.01, 0.08)] as const),
  [46, hat(0.1, 0.5)],
  ...[49, 51, 53, 57, 59].map((key) => [key, cymbal] as const),
  ...[41, 43, 45, 47, 48, 50].map((key) => [key, tom] as const),
  ...[60, 61, 62, 63, 64, 65, 66].map((key) => [key, skin] as const),
  ...[69, 70, 82].map((key) => [key, shake] as const),
  [54, jingle],
  ...[75, 76, 77].map((key) => [key, wood] as const),
  ...[56, 67, 68].map((key) => [key, cowbell] as const),
  ...[80, 81].map((key) => [key, ringing] as const),
  ...[73, 74].map((key) => [key, shake] as const),
]);

/** One electronic hit for a percussion key; peak 1. `broad`: with kinds of drums that sound fonts do not hold. */
export function randomHit(key: number, chance: Chance, rateHz: number, broad = false): Float32Array {
  const loaded = broad && key >= 60 && key <= 66 && chance.yes(0.5),
    sound = (loaded ? loadedSkin : (hitByKey.get(key) ?? wood))(chance, rateHz);
  let peak = 1e-9;
  for (const value of sound) peak = Math.max(peak, Math.abs(value));
  return sound.map((value) => value / peak);
}

/** Risers, falls, hits, textures and blips, `seconds` long. */
export function randomEffect(kind: string, seconds: number, chance: Chance, rateHz: number): Float32Array {
  const random = noisy(chance.seed()),
    length = Math.ceil(seconds * rateHz),
    out = new Float32Array(length);
  if (kind === 'fx:impact') {
    const decay = chance.ratio(0.2, 1.4);
    return sum(
      [drop(rateHz, seconds, chance.ratio(80, 300), chance.ratio(25, 60), chance.ratio(0.03, 0.3), decay), 1],
      [noiseBurst(rateHz, seconds, decay * chance.between(0.3, 1), chance.ratio(300, 3000), 0.7, 'low', random), chance.between(0.4, 1.5)],
    );
  }
  if (kind === 'fx:zap') {
    const from = chance.ratio(300, 6000),
      to = chance.ratio(80, 5000),
      short = Math.min(seconds, chance.ratio(0.05, 0.8)),
      shape = chance.pick([0, 1, 2]),
      wobble = chance.pick([0, 0, chance.between(5, 60)]);
    let phase = 0;
    for (let i = 0; i < short * rateHz; i++) {
      const at = i / rateHz / short;
      phase += (from * (to / from) ** at * (1 + 0.4 * Math.sin(tau * wobble * at))) / rateHz;
      out[i] = wave(shape, phase, 0.5) * (1 - at) ** chance.pick([1]);
    }
    return out.slice(0, Math.ceil(short * rateHz));
  }
  const rising = kind === 'fx:riser',
    steady = kind === 'fx:texture',
    tonal = chance.yes(0.4),
    low = chance.ratio(100, 600),
    high = chance.ratio(2500, 6500),
    flutter = chance.pick([0, 0, chance.between(2, 14)]),
    crackle = steady && chance.yes(0.4);
  let phase = 0;
  for (let i = 0; i < length; i++) {
    const at = i / length,
      way = rising ? at : 1 - at;
    phase += (low * (high / low) ** way * 0.3) / rateHz;
    out[i] = crackle
      ? random() < 0.0006
        ? random() * 2 - 1
        : (random() * 2 - 1) * 0.02
      : (random() * 2 - 1) * 0.7 + (tonal && !steady ? 0.6 * wave(1, phase, 0.5) : 0);
  }
  sweepFilter(
    out,
    rateHz,
    (t) => (steady ? low * 4 * (1 + 0.3 * Math.sin(t * 0.7)) : low * (high / low) ** (rising ? t / seconds : 1 - t / seconds)),
    chance.between(0.6, 4),
    chance.pick(['low', 'band']),
  );
  for (let i = 0; i < length; i++) {
    const at = i / length;
    out[i] *= (steady ? 1 : rising ? at ** 1.5 : (1 - at) ** 1.5) * (flutter ? 0.6 + 0.4 * Math.sin((tau * flutter * i) / rateHz) : 1);
  }
  return out;
}

/** A record moved by hand: noise or a tone whose speed swings, and stops at the turns. */
export function scratch(seconds: number, chance: Chance, rateHz: number): Float32Array {
  const random = noisy(chance.seed()),
    table = Float32Array.from({ length: 8192 }, () => random() * 2 - 1),
    out = new Float32Array(Math.ceil(Math.min(seconds, 2) * rateHz)),
    turns = chance.between(1, 9),
    tonal = chance.between(0, 1),
    hz = chance.ratio(80, 600),
    speed = chance.ratio(0.05, 0.6),
    slows = chance.yes(0.4);
  let at = 0;
  for (let i = 0; i < out.length; i++) {
    const t = i / rateHz,
      way = slows ? Math.max(0, 1 - t / (out.length / rateHz)) : Math.abs(Math.sin(Math.PI * turns * t));
    at += way * speed;
    const k = Math.floor(at);
    out[i] =
      (way * (1 - tonal) * (table[k & 8191] + (table[(k + 1) & 8191] - table[k & 8191]) * (at - k)) +
        way * tonal * wave(1, (at * hz * 6) / rateHz, 0.5)) *
      Math.min(1, i / 200, (out.length - i) / 400);
  }
  return out;
}

export const hzOf = noteToHz;
