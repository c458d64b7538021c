/** Fewer hits than this tell no more of a period than the pulse does. */
const fewestHits = 6;
/** Hits nearer together than this are one. */
const apartSeconds = 0.06;
/** Hits farther than this from a sixteenth belong to none. */
const reachShare = 0.35;
/**
 * How far hits may lie from their sixteenths, as a root mean square in seconds: beyond the first they have to lie clearly nearer than by the
 * period that was given (swing and human timing), beyond the second they are no clock (soft beginnings, free playing).
 */
const spreads = { tight: 0.01, loose: 0.022, clearly: 0.75 } as const;
/** A step that moves the period by more than this is a jump to another one. */
const mostChange = 0.02;

/**
 * A beat's period as hits have it: the straight line through the times of hits against the sixteenths they lie on (least squares by strength),
 * first over a few beats, then over twice as many, and so on, so that no hit is counted to a wrong sixteenth. The pulse by itself is told from
 * lags of a short loop, and is off by half a percent where only a bar or two are heard.
 * @param periodSeconds of a beat, as the pulse says
 * @returns the period, or what was given where hits say too little
 */
export function periodByHits(onsetSeconds: readonly number[], strengths: readonly number[], periodSeconds: number): number {
  const hits = clearHits(onsetSeconds, strengths);
  if (hits.length < fewestHits) return periodSeconds;
  let period = periodSeconds,
    origin = hits[0].time;
  const last = hits[hits.length - 1].time;
  for (let beats = 4; ; beats *= 2) {
    const until = origin + (beats + 0.1) * period,
      fitted = fitLine(hits, origin, period / 4, until);
    if (fitted) {
      if (Math.abs((fitted.step * 4) / periodSeconds - 1) > mostChange) return periodSeconds;
      period = fitted.step * 4;
      origin = fitted.origin;
    }
    if (until > last)
      return fitted &&
        (fitted.spreadSeconds <= spreads.tight ||
          (fitted.spreadSeconds <= spreads.loose && fitted.spreadSeconds <= spreads.clearly * spreadAt(fitted.used, periodSeconds / 4)))
        ? period
        : periodSeconds;
  }
}

interface Hit {
  readonly time: number;
  readonly weight: number;
}

/** Hits of half the strength of the strongest, those that follow another at once left out: a low note's swings look like hits of their own. */
function clearHits(onsetSeconds: readonly number[], strengths: readonly number[]): Hit[] {
  const strongest = strengths.reduce((a, b) => Math.max(a, b), 0),
    clear: Hit[] = [];
  onsetSeconds.forEach((time, k) => {
    const before = clear.at(-1);
    if (strengths[k] >= strongest / 2 && (!before || time - before.time >= apartSeconds)) clear.push({ time, weight: strengths[k] });
  });
  return clear;
}

function fitLine(
  hits: readonly Hit[],
  origin: number,
  step: number,
  until: number,
): { readonly origin: number; readonly step: number; readonly spreadSeconds: number; readonly used: readonly Used[] } | null {
  const used: Used[] = [];
  let weight = 0,
    meanPlace = 0,
    meanTime = 0;
  for (const hit of hits) {
    if (hit.time > until) break;
    const exact = (hit.time - origin) / step,
      place = Math.round(exact);
    if (Math.abs(exact - place) > reachShare) continue;
    used.push({ ...hit, place });
    weight += hit.weight;
    meanPlace += hit.weight * place;
    meanTime += hit.weight * hit.time;
  }
  if (used.length < fewestHits) return null;
  meanPlace /= weight;
  meanTime /= weight;
  let spread = 0,
    both = 0;
  for (const each of used) {
    spread += each.weight * (each.place - meanPlace) ** 2;
    both += each.weight * (each.place - meanPlace) * (each.time - meanTime);
  }
  if (spread <= 0) return null;
  const slope = both / spread;
  return { origin: meanTime - slope * meanPlace, step: slope, spreadSeconds: spreadAt(used, slope), used };
}

/** A hit, and the sixteenth it lies on. */
interface Used extends Hit {
  readonly place: number;
}

/** Root mean square of how far hits lie from the sixteenths of a step, wherever the first of these best begins. */
function spreadAt(used: readonly Used[], step: number): number {
  const weight = used.reduce((sum, each) => sum + each.weight, 0),
    begin = used.reduce((sum, each) => sum + each.weight * (each.time - step * each.place), 0) / weight;
  return Math.sqrt(used.reduce((sum, each) => sum + each.weight * (each.time - step * each.place - begin) ** 2, 0) / weight);
}
