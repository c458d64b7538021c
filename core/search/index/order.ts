/** The places of slots by a value. What has no value (NaN) comes last either way; equal ones go by id. */
export interface Order {
  /** Slots with a value, rising by it and by id; then those without, rising by id. */
  readonly slots: Uint32Array;
  readonly knownCount: number;
  /** Place in `slots`, by slot. */
  readonly placeOf: Uint32Array;
}

const scratch = { float: new Float64Array(1), words: new Uint32Array(0) };
scratch.words = new Uint32Array(scratch.float.buffer);

/** The order of all slots that are alive, by stable passes over 16 bits each (radix sort; Knuth vol. 3, 5.2.5). @param slots alive, rising by id */
export function orderBy(slots: Uint32Array, valueOf: (slot: number) => number, capacity: number): Order {
  const count = slots.length,
    high = new Uint32Array(count),
    low = new Uint32Array(count);
  const known = new Uint32Array(count);
  let knownCount = 0;
  const unknown: number[] = [];
  for (let k = 0; k < count; k++) {
    const value = valueOf(slots[k]);
    if (Number.isNaN(value)) {
      unknown.push(slots[k]);
      continue;
    }
    // The bits of a number rise with it, once those of negative ones are turned round (IEEE 754).
    scratch.float[0] = value === 0 ? 0 : value;
    const negative = scratch.words[1] >>> 31 === 1;
    high[knownCount] = negative ? ~scratch.words[1] : scratch.words[1] ^ 0x80000000;
    low[knownCount] = negative ? ~scratch.words[0] : scratch.words[0];
    known[knownCount++] = k;
  }
  const places = new Uint32Array(knownCount);
  for (let k = 0; k < knownCount; k++) places[k] = k;
  let from = places,
    to = new Uint32Array(knownCount);
  for (const [words, shift] of [
    [low, 0],
    [low, 16],
    [high, 0],
    [high, 16],
  ] as const) {
    const counts = new Uint32Array(65537);
    for (let k = 0; k < knownCount; k++) counts[((words[k] >>> shift) & 0xffff) + 1]++;
    // All alike in these bits: nothing to move.
    if (knownCount > 0 && counts[((words[0] >>> shift) & 0xffff) + 1] === knownCount) continue;
    for (let k = 0; k < 65536; k++) counts[k + 1] += counts[k];
    for (let k = 0; k < knownCount; k++) to[counts[(words[from[k]] >>> shift) & 0xffff]++] = from[k];
    [from, to] = [to, from];
  }
  const ordered = new Uint32Array(count);
  for (let k = 0; k < knownCount; k++) ordered[k] = slots[known[from[k]]];
  ordered.set(unknown, knownCount);
  return withPlaces(ordered, knownCount, capacity);
}

function withPlaces(slots: Uint32Array, knownCount: number, capacity: number): Order {
  const placeOf = new Uint32Array(capacity);
  for (let k = 0; k < slots.length; k++) placeOf[slots[k]] = k;
  return { slots, knownCount, placeOf };
}

/** An order with other slots: those that are gone left out, the new ones put in where they belong. */
export function mergeOrder(
  before: Order,
  isAlive: (slot: number) => boolean,
  added: readonly number[],
  isKnown: (slot: number) => boolean,
  compare: (a: number, b: number) => number,
  byId: (a: number, b: number) => number,
  capacity: number,
): Order {
  const merge = (old: Uint32Array, fresh: number[], order: (a: number, b: number) => number): number[] => {
    fresh.sort(order);
    const out: number[] = [];
    let at = 0;
    for (let k = 0; k < old.length; k++) {
      if (!isAlive(old[k])) continue;
      while (at < fresh.length && order(fresh[at], old[k]) < 0) out.push(fresh[at++]);
      out.push(old[k]);
    }
    while (at < fresh.length) out.push(fresh[at++]);
    return out;
  };
  const known = merge(before.slots.subarray(0, before.knownCount), added.filter(isKnown), compare),
    unknown = merge(
      before.slots.subarray(before.knownCount),
      added.filter((slot) => !isKnown(slot)),
      byId,
    );
  const slots = new Uint32Array(known.length + unknown.length);
  slots.set(known);
  slots.set(unknown, known.length);
  return withPlaces(slots, known.length, capacity);
}

/** Place of a slot when the order is turned round: what has no value still comes last. */
export const turnedPlace = ({ slots, knownCount }: Order, place: number): number =>
  place < knownCount ? knownCount - 1 - place : knownCount + slots.length - 1 - place;
