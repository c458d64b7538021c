import type { Chance } from './chance';
import { beatenKick, handDrum, struckMetal, struckSnare, struckTom, struckWood } from './struck';
import { drop, metal, noiseBurst, noisy, shaped, sum, sweepFilter } from './signal';

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

/** Keys below the kit, at which General MIDI 2 has ticks and whips. */
export const blipKeys: readonly number[] = [27, 28, 29, 30, 31, 32];

/** The short blips, ticks and broken sounds that packs call percussion: tones that ring each other, squares that drop, held samples. */
const blip: HitMaker = (c, r) => {
  const seconds = c.ratio(0.02, 0.9),
    from = c.ratio(150, 6000),
    ratio = c.ratio(0.1, 7),
    pieces = c.yes(0.35) ? c.whole(2, 9) : 1,
    parts: (readonly [Float32Array, number])[] = [];
  for (let k = 0; k < pieces; k++) {
    const length = (seconds / pieces) * c.between(0.5, 1),
      tone = drop(r, length, from * c.ratio(0.4, 2.5), from * c.ratio(0.15, 2), c.ratio(0.005, 0.2), length * c.ratio(0.15, 1)),
      other = drop(r, length, from * ratio, from * ratio * c.ratio(0.3, 2), 0.1, length),
      ringing = c.yes(0.5),
      noise = noiseBurst(
        r,
        length,
        length * c.ratio(0.1, 1),
        c.ratio(500, 7000),
        c.between(0.5, 4),
        c.pick(['band', 'high', 'low']),
        noisy(c.seed()),
      ),
      share = c.pick([0, c.between(0, 1), 1]),
      out = new Float32Array(Math.ceil(seconds * r) + tone.length),
      at = Math.floor((k / pieces) * seconds * r);
    for (let i = 0; i < tone.length; i++) out[at + i] = tone[i] * (ringing ? (other[i] ?? 0) : 1) * (1 - share) + (noise[i] ?? 0) * share;
    parts.push([out, c.between(0.3, 1)]);
  }
  return shaped(sum(...parts), c.pick([0, 0.3, 1]));
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
  ...blipKeys.map((key) => [key, blip] as const),
]);

/** What is struck, by key, beside what is made by circuits. */
const struckByKey = new Map<number, HitMaker>([
  ...[35, 36].map((key) => [key, beatenKick] as const),
  ...[38, 40].map((key) => [key, struckSnare] as const),
  ...[41, 43, 45, 47, 48, 50].map((key) => [key, struckTom] as const),
  ...[60, 61, 62, 63, 64, 65, 66].map((key) => [key, handDrum] as const),
  ...[37, 75, 76, 77].map((key) => [key, struckWood] as const),
  ...[56, 67, 68, 80, 81].map((key) => [key, struckMetal] as const),
]);

/** One hit for a percussion key; peak 1. `broad`: with drums that sound fonts do not hold, and worn by tape, converters and amplifiers. */
export function randomHit(key: number, chance: Chance, rateHz: number, broad = false): Float32Array {
  const struck = broad && chance.yes(0.55) ? struckByKey.get(key) : undefined,
    sound = (struck ?? hitByKey.get(key) ?? wood)(chance, rateHz);
  if (broad && chance.yes(0.2)) wear(sound, chance);
  let peak = 1e-9;
  for (const value of sound) peak = Math.max(peak, Math.abs(value));
  return sound.map((value) => value / peak);
}

/** Few bits, a low rate of samples held, and hard clipping. */
function wear(sound: Float32Array, chance: Chance): void {
  const steps = 2 ** chance.whole(3, 7),
    held = chance.whole(1, 10),
    limit = chance.between(0.1, 1);
  let peak = 1e-9,
    now = 0;
  for (const value of sound) peak = Math.max(peak, Math.abs(value));
  for (let i = 0; i < sound.length; i++) {
    if (i % held === 0) now = Math.round(Math.max(-limit, Math.min(limit, sound[i] / peak)) * steps) / steps;
    sound[i] = now;
  }
}
