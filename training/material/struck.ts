import type { Chance } from './chance';
import { add, filteredNoise, tau } from './signal';

/*
 * Things that are struck, as sums of modes: a skin over a shell, loaded or not, by hand or by stick, left to ring or held; a box; a pot; metal.
 * A recording differs from another by where it is struck, what else rings with it and the noise of the hand, more than by its pitch, so all of
 * that is drawn.
 */

/** Modes of an ideal round membrane relative to its lowest (zeros of Bessel functions; Rayleigh 1877). */
const membrane = [1, 1.594, 2.136, 2.296, 2.653, 2.918, 3.156, 3.501, 3.6, 4.06, 4.601];
/** Ratios of a bar that is free at both ends (Rayleigh 1877). */
const freeBar = [1, 2.756, 5.404, 8.933, 13.34];

interface Strike {
  readonly hz: number;
  readonly ratios: readonly number[];
  /** Of the lowest mode, to 1/e. */
  readonly decaySeconds: number;
  /** Decay of a mode is (ratio)^−this of the lowest one's. */
  readonly damping: number;
  /** The soft flesh of a hand touches for longer than a stick: modes above its reach are not stirred. */
  readonly contactSeconds: number;
  /** How far the pitch falls (above 1: begins higher) or is pressed up after the hit, and how fast. */
  readonly glide: number;
  readonly glideSeconds: number;
  readonly glideDelaySeconds: number;
  /** When a finger or a hand stops it, and how fast; Infinity: never. */
  readonly heldAfterSeconds: number;
  readonly heldFallSeconds: number;
}

/** Damped sines, each mode twice a little apart, as an uneven skin has it. */
function modes(strike: Strike, chance: Chance, rateHz: number): Float32Array {
  const seconds = Math.min(4, strike.decaySeconds * 7, strike.heldAfterSeconds + strike.heldFallSeconds * 8) + 0.02,
    out = new Float32Array(Math.ceil(seconds * rateHz)),
    where = chance.between(0.15, 1);
  for (const [k, ratio] of strike.ratios.entries()) {
    const twins = chance.yes(0.5) ? 2 : 1;
    for (let twin = 0; twin < twins; twin++) {
      const hz = strike.hz * ratio * (1 + chance.normal(0.008)) * (1 + twin * chance.between(0.001, 0.012)),
        level =
          (0.25 + Math.abs(Math.sin(where * (k + 1) * 1.9)) * chance.between(0.4, 1)) * Math.exp(-((hz * strike.contactSeconds) ** 2)),
        decay = strike.decaySeconds * ratio ** -strike.damping * chance.ratio(0.6, 1.5);
      if (hz > rateHz * 0.45 || level < 1e-4) continue;
      const phase = tau * (chance.yes(0.7) ? 0 : chance.unit());
      let re = (level / twins) * Math.cos(phase),
        im = (level / twins) * Math.sin(phase);
      const fall = Math.exp(-1 / (decay * rateHz)),
        last = Math.min(out.length, Math.ceil(Math.log((level / twins) * 1e5) * decay * rateHz));
      // A turn a frame, by a step that follows the glide every 32 frames.
      for (let from = 0; from < last; from += 32) {
        const t = Math.max(0, from / rateHz - strike.glideDelaySeconds),
          step = (tau * hz * (1 + (strike.glide - 1) * Math.exp(-t / strike.glideSeconds))) / rateHz,
          [x, y] = [fall * Math.cos(step), fall * Math.sin(step)];
        for (let i = from; i < Math.min(last, from + 32); i++) {
          out[i] += im;
          const turned = re * x - im * y;
          im = re * y + im * x;
          re = turned;
        }
      }
    }
  }
  if (Number.isFinite(strike.heldAfterSeconds))
    for (let i = Math.floor(strike.heldAfterSeconds * rateHz); i < out.length; i++)
      out[i] *= Math.exp(-(i / rateHz - strike.heldAfterSeconds) / strike.heldFallSeconds);
  return out;
}

/** The noise of flesh, stick or nail: one or two bursts, each through a band of its own. */
function touch(into: Float32Array, chance: Chance, rateHz: number, level: number, lowHz: number, highHz: number, longest: number): void {
  for (let bursts = chance.whole(1, 2); bursts > 0; bursts--)
    add(
      into,
      filteredNoise(chance, rateHz, chance.ratio(0.001, longest), chance.ratio(lowHz, highHz), chance.between(0.5, 2.5)),
      level * chance.between(0.3, 1),
      Math.floor(chance.between(0, 0.004) * rateHz),
    );
}

const towardsHarmonic = (load: number): number[] => membrane.slice(0, 7).map((ratio, k) => ratio * (1 - load) + (k + 1) * load);

const still: Pick<Strike, 'glide' | 'glideSeconds' | 'glideDelaySeconds' | 'heldAfterSeconds' | 'heldFallSeconds'> = {
  glide: 1,
  glideSeconds: 0.05,
  glideDelaySeconds: 0,
  heldAfterSeconds: Infinity,
  heldFallSeconds: 0.02,
};

type Way = (chance: Chance, rateHz: number) => Float32Array;

/** A drum played by hand: which one, and with which stroke. */
export const handDrum: Way = (c, r) => {
  const drum = c.weighted([
    ['open', 5],
    ['slap', 3],
    ['muted', 4],
    ['ringing', 4],
    ['pressed', 4],
    ['deep', 2],
    ['box', 1.5],
    ['pot', 1],
  ] as const);
  const strike = ((): Strike => {
    switch (drum) {
      case 'open':
        return {
          ...still,
          hz: c.ratio(140, 480),
          ratios: towardsHarmonic(c.between(0, 0.4)),
          decaySeconds: c.ratio(0.06, 0.35),
          damping: c.between(0.3, 1.2),
          contactSeconds: c.ratio(0.0002, 0.001),
          glide: c.between(1, 1.12),
          glideSeconds: c.ratio(0.01, 0.06),
        };
      case 'slap':
        return {
          ...still,
          hz: c.ratio(220, 900),
          ratios: membrane,
          decaySeconds: c.ratio(0.02, 0.16),
          damping: c.between(0, 0.6),
          contactSeconds: c.ratio(0.00005, 0.0004),
          glide: c.between(1, 1.2),
          glideSeconds: 0.02,
        };
      case 'muted':
        return {
          ...still,
          hz: c.ratio(90, 700),
          ratios: towardsHarmonic(c.between(0, 0.7)),
          decaySeconds: c.ratio(0.01, 0.06),
          damping: c.between(0, 0.8),
          contactSeconds: c.ratio(0.0001, 0.0012),
          glide: c.between(0.95, 1.3),
          glideSeconds: 0.02,
        };
      case 'ringing':
        // A loaded skin: overtones nearly harmonic (Raman 1934), the lowest often kept down by a finger.
        return {
          ...still,
          hz: c.ratio(170, 520),
          ratios: towardsHarmonic(c.between(0.8, 1)).slice(c.pick([0, 0, 1])),
          decaySeconds: c.ratio(0.15, 1.1),
          damping: c.between(0.2, 1),
          contactSeconds: c.ratio(0.0001, 0.0008),
        };
      case 'pressed':
        // The heel of the hand presses the skin while it rings: the pitch is pushed up, or let go.
        return {
          ...still,
          hz: c.ratio(75, 210),
          ratios: towardsHarmonic(c.between(0.2, 0.9)).slice(0, 5),
          decaySeconds: c.ratio(0.12, 1.1),
          damping: c.between(0.8, 2),
          contactSeconds: c.ratio(0.0005, 0.003),
          glide: c.ratio(0.5, 1.15),
          glideSeconds: c.ratio(0.02, 0.3),
          glideDelaySeconds: c.pick([0, 0, c.ratio(0.02, 0.2)]),
          heldAfterSeconds: c.pick([Infinity, Infinity, c.ratio(0.05, 0.5)]),
        };
      case 'deep':
        return {
          ...still,
          hz: c.ratio(55, 130),
          ratios: membrane.slice(0, 8),
          decaySeconds: c.ratio(0.1, 0.5),
          damping: c.between(0.5, 1.4),
          contactSeconds: c.ratio(0.0005, 0.003),
          glide: c.between(1, 1.25),
          glideSeconds: c.ratio(0.02, 0.1),
        };
      case 'box':
        return {
          ...still,
          hz: c.ratio(60, 140),
          ratios: [1, 2.3, 3.4, 5.1, 7.7, 9.3],
          decaySeconds: c.ratio(0.03, 0.15),
          damping: c.between(0, 0.8),
          contactSeconds: c.ratio(0.0002, 0.001),
        };
      case 'pot':
        return {
          ...still,
          hz: c.ratio(90, 400),
          ratios: [1, 5.2, 8.9],
          decaySeconds: c.ratio(0.06, 0.4),
          damping: 1,
          contactSeconds: c.ratio(0.0003, 0.001),
          glide: c.ratio(0.6, 1.5),
          glideSeconds: c.ratio(0.03, 0.2),
        };
    }
  })();
  const body = modes(strike, c, r),
    out = new Float32Array(Math.max(body.length, Math.ceil(0.12 * r)));
  add(out, body, 1);
  const dry = drum === 'slap' || drum === 'muted';
  touch(out, c, r, dry ? c.between(0.3, 3) : c.between(0.05, 0.8), 300, 6000, dry ? 0.03 : 0.015);
  if (drum === 'box' && c.yes(0.6)) add(out, filteredNoise(c, r, c.ratio(0.02, 0.08), c.ratio(1500, 6000), 0.7), c.between(0.2, 1));
  // A second drum rings with it, or is struck with it.
  if (c.yes(0.25))
    add(
      out,
      modes({ ...strike, hz: strike.hz * c.ratio(0.3, 3), decaySeconds: c.ratio(0.1, 0.5), glide: 1 }, c, r),
      c.ratio(0.03, 0.8),
      Math.floor(c.pick([0, 0, c.between(0, 0.02)]) * r),
    );
  return out;
};

/** A tom: a stick on a tuned skin, with a second skin behind it. */
export const struckTom: Way = (c, r) => {
  const hz = c.ratio(60, 240),
    out = modes(
      {
        ...still,
        hz,
        ratios: membrane.slice(0, c.whole(5, 9)),
        decaySeconds: c.ratio(0.12, 0.7),
        damping: c.between(0.6, 1.6),
        contactSeconds: c.ratio(0.0001, 0.0008),
        glide: c.between(1.02, 1.35),
        glideSeconds: c.ratio(0.02, 0.12),
      },
      c,
      r,
    );
  add(
    out,
    modes(
      { ...still, hz: hz * c.between(1.02, 1.7), ratios: [1], decaySeconds: c.ratio(0.1, 0.5), damping: 1, contactSeconds: 0.0003 },
      c,
      r,
    ),
    c.between(0, 0.6),
  );
  touch(out, c, r, c.between(0.1, 0.7), 900, 6000, 0.008);
  // Snare wires and cymbals answer in a room with a kit.
  if (c.yes(0.4)) add(out, filteredNoise(c, r, c.ratio(0.05, 0.3), c.ratio(2000, 6000), 0.7), c.ratio(0.005, 0.08));
  return out;
};

/** A bass drum with a beater: low, soon damped, with a click. */
export const beatenKick: Way = (c, r) => {
  const out = modes(
    {
      ...still,
      hz: c.ratio(40, 85),
      ratios: membrane.slice(0, c.whole(2, 7)),
      decaySeconds: c.ratio(0.05, 0.5),
      damping: c.between(0.5, 2),
      contactSeconds: c.ratio(0.0003, 0.003),
      glide: c.between(1, 1.8),
      glideSeconds: c.ratio(0.01, 0.05),
    },
    c,
    r,
  );
  touch(out, c, r, c.between(0.1, 1), 800, 5000, 0.006);
  if (c.yes(0.3)) add(out, filteredNoise(c, r, c.ratio(0.05, 0.2), c.ratio(1500, 5000), 0.7), c.ratio(0.005, 0.06));
  return out;
};

/** A snare drum: skin, shell and wires. */
export const struckSnare: Way = (c, r) => {
  const hz = c.ratio(130, 330),
    skin = modes(
      {
        ...still,
        hz,
        ratios: membrane.slice(0, 7),
        decaySeconds: c.ratio(0.03, 0.22),
        damping: c.between(0.2, 1.2),
        contactSeconds: c.ratio(0.00005, 0.0003),
        glide: c.between(1, 1.15),
      },
      c,
      r,
    ),
    wires = c.ratio(0.04, 0.3),
    out = new Float32Array(Math.max(skin.length, Math.ceil(wires * 6 * r)));
  add(out, skin, c.between(0.2, 1));
  for (let bands = c.whole(1, 3); bands > 0; bands--)
    add(out, filteredNoise(c, r, wires * c.between(0.5, 1), c.ratio(800, 8000), c.between(0.4, 1.2)), c.between(0.2, 1.2));
  touch(out, c, r, c.between(0.1, 0.8), 1000, 8000, 0.006);
  return out;
};

/** Wood, shell and bell: bars and plates of few modes. */
export const struckWood: Way = (c, r) => {
  const out = modes(
    {
      ...still,
      hz: c.ratio(350, 2600),
      ratios: c.pick([freeBar, [1, 1.47, 2.09, 2.8], [1, 2.1, 3.4, 5.2]]),
      decaySeconds: c.ratio(0.01, 0.09),
      damping: c.between(0, 0.8),
      contactSeconds: c.ratio(0.00003, 0.0002),
    },
    c,
    r,
  );
  touch(out, c, r, c.between(0.05, 0.6), 1000, 7000, 0.006);
  return out;
};
export const struckMetal: Way = (c, r) => {
  const out = modes(
    {
      ...still,
      hz: c.ratio(300, 3200),
      ratios: c.pick([
        [1, 1.5, 2.3, 3.1, 4.7, 6.2],
        [1, 1.48, 2.9, 4.2, 5.5],
        [1, 2.76, 5.4, 8.93],
        [0.5, 1, 1.2, 1.5, 2, 2.5, 2.67, 3],
      ]),
      decaySeconds: c.ratio(0.05, 1.4),
      damping: c.between(0, 0.9),
      contactSeconds: c.ratio(0.00002, 0.0002),
      heldAfterSeconds: c.pick([Infinity, Infinity, c.ratio(0.03, 0.3)]),
    },
    c,
    r,
  );
  touch(out, c, r, c.between(0, 0.4), 1500, 9000, 0.005);
  return out;
};
