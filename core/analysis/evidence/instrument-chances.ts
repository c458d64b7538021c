import { instrumentById, type Family } from '../../theory/instruments';
import { fuseAll } from './fuse';
import type { Candidate, Evidence } from '../facts';

/** All instruments with what all sources together say of them, and the same gathered by family; the likeliest first. */
export function instrumentChances(all: readonly Evidence[]): { instruments: Candidate<string>[]; families: Candidate<Family>[] } {
  const instruments = fuseAll('instrument', all),
    sums = new Map<Family, number>();
  for (const { value, probability } of instruments) {
    const family = instrumentById(value)?.family;
    if (family) sums.set(family, (sums.get(family) ?? 0) + probability);
  }
  return {
    instruments,
    families: [...sums].map(([value, probability]) => ({ value, probability })).sort((a, b) => b.probability - a.probability),
  };
}
