import { topOffset } from '../dsp/parabola';

/** A partial of a voice: its place in bins, and the natural logarithm of its amplitude. */
interface Partial {
  readonly bin: number;
  readonly level: number;
}

/** Partials are looked for so far (in periods of the pitch) beside where the one before says they lie. */
const reach = 0.15,
  /** An envelope rises above the partials beside it by so much at most: 4 dB. */
  mostRise = 0.5,
  /** Partials farther below are taken to be so far (nepers of power) below. */
  mostBelow = 12,
  leastPartials = 4;

/**
 * The partials of a voice, from its lowest on, until one is missing.
 * @param levels natural logarithms of a spectrum's amplitudes, one a bin
 * @param spacing about how far they lie apart, in bins
 */
export function partialsOfVoice(levels: Float32Array, spacing: number): Partial[] {
  const found: Partial[] = [],
    last = levels.length - 2;
  let expected = spacing,
    apart = spacing;
  while (expected + reach * apart < last) {
    const from = Math.max(1, Math.round(expected - reach * apart)),
      to = Math.round(expected + reach * apart);
    let top = from;
    for (let k = from; k <= to; k++) if (levels[k] > levels[top]) top = k;
    if (levels[top] <= levels[top - 1] || levels[top] < levels[top + 1]) break;
    const offset = topOffset(levels[top - 1], levels[top], levels[top + 1]),
      bin = top + offset;
    found.push({ bin, level: levels[top] + 0.25 * (levels[top + 1] - levels[top - 1]) * offset });
    apart = bin / found.length;
    expected = bin + apart;
  }
  return found;
}

/**
 * Draws the envelope of a voice through its partials, in place. Near a resonance the reciprocal of the power is a parabola of the frequency,
 * so a parabola through the reciprocals of three partials finds a formant that lies between them; between two partials, the two parabolas
 * that know both are blended. The whole is laid at the envelope's own height, and goes over into it towards the last partial.
 * @param weight of what is drawn, 0 to 1: how surely these are the partials of one voice
 */
export function drawThrough(partials: readonly Partial[], envelope: Float32Array, weight: number): void {
  const count = partials.length;
  if (count < leastPartials || weight <= 0) return;
  const offset = partials.reduce((sum, { bin, level }) => sum + level - envelope[Math.round(bin)], 0) / count;
  for (let n = -1; n + 1 < count; n++) {
    const left = partials[Math.max(0, n)],
      right = partials[n + 1],
      from = n < 0 ? 0 : left.bin,
      // A formant lies between two partials only where both stand above those beyond them.
      onTop = (partials[n - 1]?.level ?? -Infinity) <= left.level && (partials[n + 2]?.level ?? -Infinity) <= right.level,
      ceiling = Math.max(left.level, right.level) + (onTop ? mostRise : 0),
      scale = 2 * Math.max(left.level, right.level),
      of = (first: number) => parabola(partials.slice(first, first + 3), ({ level }) => Math.exp(Math.min(scale - 2 * level, mostBelow))),
      below = of(Math.max(0, n - 1)),
      above = of(Math.max(0, Math.min(n, count - 3)));
    for (let k = Math.ceil(from); k < right.bin; k++) {
      const share = (k - from) / (right.bin - from),
        value = (1 - share) * below(k) + share * above(k),
        drawn = Math.min(ceiling, (scale - Math.log(Math.max(value, 1e-3))) / 2) - offset;
      envelope[k] += (n + 2 < count ? weight : weight * (1 - share)) * (drawn - envelope[k]);
    }
  }
}

/** Through three points (Lagrange). */
function parabola([a, b, c]: readonly Partial[], valueOf: (partial: Partial) => number): (bin: number) => number {
  const p = valueOf(a) / ((a.bin - b.bin) * (a.bin - c.bin)),
    q = valueOf(b) / ((b.bin - a.bin) * (b.bin - c.bin)),
    r = valueOf(c) / ((c.bin - a.bin) * (c.bin - b.bin));
  return (x) => p * (x - b.bin) * (x - c.bin) + q * (x - a.bin) * (x - c.bin) + r * (x - a.bin) * (x - b.bin);
}
