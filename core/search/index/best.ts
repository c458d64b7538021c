const bins = 4096;

/**
 * The slots with the highest values, falling, equal ones by falling id; those without a value (NaN) left out. By a count of each height first, so that of a
 * million only the few at the top are sorted.
 * @param values 0–100 by slot
 */
export function bestOf(slots: Uint32Array, values: Float32Array, most: number, idOf: (slot: number) => number): number[] {
  const counts = new Uint32Array(bins + 1),
    binOf = (value: number) => Math.max(0, Math.min(bins, Math.floor((value / 100) * bins)));
  for (let k = 0; k < slots.length; k++) {
    const value = values[slots[k]];
    if (value === value) counts[binOf(value)]++;
  }
  let lowest = bins,
    above = counts[bins];
  while (lowest > 0 && above < most) above += counts[--lowest];
  const found: number[] = [];
  for (let k = 0; k < slots.length; k++) {
    const value = values[slots[k]];
    if (value === value && binOf(value) >= lowest) found.push(slots[k]);
  }
  return found.sort((a, b) => values[b] - values[a] || idOf(b) - idOf(a)).slice(0, most);
}
