import type { Chance } from './chance';
import { beatenKick, handDrum, struckMetal, struckTom } from './struck';
import { add, drop, filteredNoise, noiseBurst, noisy, sum, sweepFilter, tau, wave } from './signal';

/** Risers, falls, hits, textures and blips, `seconds` long. */
export function randomEffect(kind: string, seconds: number, chance: Chance, rateHz: number, struckToo = false): Float32Array {
  const random = noisy(chance.seed()),
    length = Math.ceil(seconds * rateHz),
    out = new Float32Array(length);
  if (kind === 'fx:impact') {
    const decay = chance.ratio(0.2, 1.4);
    // Doors, hulls and plates, struck in a hall.
    if (struckToo && chance.yes(0.4)) return slam(seconds, chance, rateHz);
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

/** Several heavy things that give way at once: struck bodies a few hundredths apart, a crash of noise, and what falls after them. */
export function slam(seconds: number, chance: Chance, rateHz: number): Float32Array {
  const out = new Float32Array(Math.ceil(seconds * rateHz));
  for (let parts = chance.whole(2, 6); parts > 0; parts--) {
    const at = Math.floor((chance.yes(0.5) ? 0 : chance.ratio(0.005, 0.15)) * rateHz),
      gain = chance.between(0.2, 1),
      sound = chance.yes(0.5)
        ? chance.pick([struckTom, beatenKick, struckMetal, handDrum])(chance, rateHz)
        : filteredNoise(chance, rateHz, chance.ratio(0.02, 0.5), chance.ratio(100, 5000), chance.between(0.4, 1.5));
    add(out, sound, gain, at);
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
