import { sameValue, type Candidate, type Evidence } from '../facts';
import type { Source } from '../sources';
import type { Reading } from '../tempo/read-rhythm';

/** Of loops in 6/8 so many are named by their quarters instead of their beats (from memory of common practice). */
const namedByQuarters = 0.5;
/** So many loops are in 6/8 (from memory of common practice). */
const usualShare = 0.04;
const stating: ReadonlySet<Source> = new Set<Source>(['tag', 'file-name', 'folder']);

/**
 * A 6/8 has two beats in a bar, and three quarters: what is stated of it may be one and a half times its tempo. How likely that is depends on
 * whether a loop at two thirds of the stated tempo is heard in 6/8 at all, which a name by itself does not know.
 */
export function withQuarters(
  all: readonly Evidence[],
  readings: readonly Pick<Reading, 'tempoBpm' | 'meter' | 'probability'>[],
): Evidence[] {
  return all.map((each) => (each.attribute === 'tempo' && stating.has(each.source) ? spread(each as Evidence<'tempo'>, readings) : each));
}

function spread(stated: Evidence<'tempo'>, readings: Parameters<typeof withQuarters>[1]): Evidence {
  /** Of what is heard at a tempo, the share in 6/8; where nothing is heard, as many as there are. */
  const inSixEight = (tempoBpm: number): number => {
    let all = 0,
      found = 0;
    for (const reading of readings)
      if (sameValue('tempo', reading.tempoBpm, tempoBpm)) {
        all += reading.probability;
        if (reading.meter === '6/8') found += reading.probability;
      }
    return all > 0 ? found / all : usualShare;
  };
  const candidates: Candidate<number>[] = [];
  const add = (value: number, probability: number) => {
    const known = candidates.findIndex((each) => sameValue('tempo', each.value, value));
    if (known < 0) candidates.push({ value, probability });
    else candidates[known] = { value: candidates[known].value, probability: candidates[known].probability + probability };
  };
  let moved = 0;
  for (const { value, probability } of stated.candidates) add(value, probability * (1 - namedByQuarters * inSixEight(value)));
  for (const { value, probability } of stated.candidates) {
    const share = probability * namedByQuarters * inSixEight((value * 2) / 3);
    if (share > 0) add((value * 2) / 3, share);
    moved += share;
  }
  if (moved === 0) return { ...stated, candidates } as Evidence;
  // As much is stated as before, only more widely.
  const before = stated.candidates.reduce((sum, { probability }) => sum + probability, 0),
    scale = before / candidates.reduce((sum, { probability }) => sum + probability, 0);
  return {
    ...stated,
    candidates: candidates.map(({ value, probability }) => ({ value, probability: probability * scale })),
    reason: moved > 0.05 ? `${stated.reason}, perhaps in quarters` : stated.reason,
  } as Evidence;
}
