/** A voice that repeats itself: where each of its periods begins, in frames, not whole in general; by stretches without a pause. */
export type Periods = readonly (readonly number[])[];

/** A pitch over time: the period of a sound at a frame, in frames; 0 where it has none. */
export type PeriodAt = (frame: number) => number;

/** A period is looked for so far from where the pitch says it is, as a share of it. */
const searchShare = 0.12;

/** The sum over so many frames of what stands from `from` on times what stands from `to` on; beyond the ends there is silence. */
function product(signal: Float32Array, from: number, to: number, frames: number): number {
  const first = Math.max(0, -from, -to),
    end = Math.min(frames, signal.length - from, signal.length - to);
  // Four sums, since each addition to one waits for the one before.
  let a = 0,
    b = 0,
    c = 0,
    d = 0,
    i = first;
  for (; i + 3 < end; i += 4) {
    a += signal[from + i] * signal[to + i];
    b += signal[from + i + 1] * signal[to + i + 1];
    c += signal[from + i + 2] * signal[to + i + 2];
    d += signal[from + i + 3] * signal[to + i + 3];
  }
  for (; i < end; i++) a += signal[from + i] * signal[to + i];
  return a + b + (c + d);
}

/** Where the period that begins at a mark ends: where the signal is most like itself, to a part of a frame. */
function nextMark(signal: Float32Array, mark: number, period: number): number {
  const base = Math.round(mark),
    half = Math.max(8, Math.round(period)),
    reach = Math.max(1, Math.round(period * searchShare)),
    guess = Math.round(period),
    here = base - half,
    power = (frame: number) => (signal[frame] ?? 0) ** 2,
    nearest = Math.max(4, guess - reach) - 1,
    alike: number[] = [];
  // The power of a stretch is that of the one before, without its first frame and with one more.
  let ofSecond = product(signal, here + nearest, here + nearest, 2 * half);
  for (let lag = nearest; lag <= guess + reach + 1; lag++) {
    alike.push(product(signal, here, here + lag, 2 * half) / Math.sqrt(Math.max(0, ofSecond) + 1e-12));
    ofSecond += power(here + lag + 2 * half) - power(here + lag);
  }
  let best = 1;
  for (let k = 2; k < alike.length - 1; k++) if (alike[k] > alike[best]) best = k;
  const [before, most, after] = alike.slice(best - 1, best + 2),
    curve = before - 2 * most + after,
    part = curve < 0 ? Math.max(-0.5, Math.min(0.5, (0.5 * (before - after)) / curve)) : 0;
  return mark + nearest + best + part;
}

/** Marks of the periods of a signal, where it has a pitch. */
export function findPeriods(signal: Float32Array, periodAt: PeriodAt): Periods {
  const stretches: number[][] = [];
  let marks: number[] = [];
  const close = () => {
    if (marks.length > 3) stretches.push(marks);
    marks = [];
  };
  for (let frame = 0; frame < signal.length;) {
    const period = periodAt(frame);
    if (period <= 0) {
      close();
      frame += 64;
      continue;
    }
    if (marks.length === 0) marks.push(frame);
    const next = nextMark(signal, marks[marks.length - 1], period);
    marks.push(next);
    frame = Math.ceil(next);
  }
  close();
  return stretches;
}

/** A plane between its frames, by four points (Hermite). */
function between(plane: Float32Array, at: number): number {
  const i = Math.floor(at),
    t = at - i,
    a = plane[i - 1] ?? 0,
    b = plane[i] ?? 0,
    c = plane[i + 1] ?? 0,
    d = plane[i + 2] ?? 0;
  return b + 0.5 * t * (c - a + t * (2 * a - 5 * b + 4 * c - d + t * (3 * (b - c) + d - a)));
}

const fadeFrames = 132;

/**
 * Moves the pitch of a single voice period by period; what has no pitch stays as it is, and everything stays where it is in time. Periods are laid
 * closer or farther apart as they are, so that the formants stay; or each is made shorter or longer, so that they move. Method: pitch-synchronous
 * overlap and add (TD-PSOLA; Moulines & Charpentier 1990, from memory), with marks found by likeness.
 * @param ratioAt pitch to be, as a ratio of what it is, at a frame where a period is so long
 * @param formantRatio where the formants shall be, as a ratio of where they are
 */
export function movePeriods(
  channels: readonly Float32Array[],
  periods: Periods,
  ratioAt: (frame: number, periodFrames: number) => number,
  formantRatio = 1,
): Float32Array[] {
  const total = channels[0]?.length ?? 0,
    made = channels.map(() => new Float32Array(total)),
    weights = new Float32Array(total);
  for (const marks of periods) {
    let k = 0,
      at = marks[0];
    const last = marks[marks.length - 1];
    while (at <= last) {
      while (k + 1 < marks.length - 1 && Math.abs(marks[k + 1] - at) <= Math.abs(marks[k] - at)) k++;
      const period = (marks[k + 1] ?? marks[k]) - marks[k] || marks[k] - marks[k - 1],
        half = period / formantRatio,
        from = Math.max(0, Math.ceil(at - half)),
        to = Math.min(total - 1, Math.floor(at + half));
      for (let i = from; i <= to; i++) {
        const off = i - at,
          weight = 0.5 + 0.5 * Math.cos((Math.PI * off) / half);
        weights[i] += weight;
        for (const [channel, plane] of channels.entries()) made[channel][i] += weight * between(plane, marks[k] + off * formantRatio);
      }
      at += period / Math.max(0.25, Math.min(4, ratioAt(at, period)));
    }
  }
  // Where a voice is heard, its periods; elsewhere, and softly into that, what was there.
  const voiced = new Float32Array(total);
  for (const marks of periods) voiced.fill(1, Math.max(0, Math.round(marks[0])), Math.min(total, Math.round(marks[marks.length - 1])));
  const share = softened(voiced, fadeFrames);
  return channels.map((plane, channel) =>
    plane.map((value, i) => {
      const moved = weights[i] > 1e-3 ? made[channel][i] / Math.max(0.5, weights[i]) : value;
      return value * (1 - share[i]) + moved * share[i];
    }),
  );
}

/** A mask with slopes of so many frames, within what it was. */
function softened(mask: Float32Array, frames: number): Float32Array {
  const out = mask.slice();
  for (let i = 1; i < out.length; i++) out[i] = Math.min(mask[i], out[i - 1] + 1 / frames);
  for (let i = out.length - 2; i >= 0; i--) out[i] = Math.min(out[i], out[i + 1] + 1 / frames);
  return out;
}
