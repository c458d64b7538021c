/** A set of slots, one bit each, of a fixed capacity. */
export type Bits = Uint32Array;

/** An empty set. @param slots it can hold */
export const newBits = (slots: number): Bits => new Uint32Array((slots + 31) >>> 5);
/** Puts a slot in. */
export const setBit = (bits: Bits, slot: number): void => void (bits[slot >>> 5] |= 1 << (slot & 31));
/** Takes a slot out. */
export const clearBit = (bits: Bits, slot: number): void => void (bits[slot >>> 5] &= ~(1 << (slot & 31)));
/** Whether a slot is in. */
export const hasBit = (bits: Bits, slot: number): boolean => ((bits[slot >>> 5] >>> (slot & 31)) & 1) === 1;

/** Keeps what is in both, in the first. */
export function intersect(bits: Bits, other: Bits): Bits {
  for (let k = 0; k < bits.length; k++) bits[k] &= other[k];
  return bits;
}

/** Adds what is in the other, to the first. */
export function unite(bits: Bits, other: Bits): Bits {
  for (let k = 0; k < bits.length; k++) bits[k] |= other[k];
  return bits;
}

/** How many are in it (bits counted in parallel; Warren 2002). */
export function countBits(bits: Bits): number {
  let count = 0;
  for (let k = 0; k < bits.length; k++) {
    let word = bits[k];
    if (word === 0) continue;
    word -= (word >>> 1) & 0x55555555;
    word = (word & 0x33333333) + ((word >>> 2) & 0x33333333);
    count += Math.imul((word + (word >>> 4)) & 0x0f0f0f0f, 0x01010101) >>> 24;
  }
  return count;
}

/** The slots of a set, rising. */
export function slotsOf(bits: Bits, count = countBits(bits)): Uint32Array {
  const slots = new Uint32Array(count);
  let at = 0;
  for (let k = 0; k < bits.length; k++)
    for (let word = bits[k]; word !== 0; word &= word - 1) slots[at++] = (k << 5) + 31 - Math.clz32(word & -word);
  return slots;
}
