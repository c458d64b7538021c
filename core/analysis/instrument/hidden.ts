import type { Family } from '../../theory/instruments';
import type { Candidate } from '../facts';

/** The family that a loop is known for must be heard itself, or another's chance is only a doubt about which of the two it is. */
const ownFrom = 0.4,
  saidFrom = 0.6;

/** What sounds in a loop beside the family that it is known for; nothing for a full mix, of which that goes without saying. */
export function hiddenFamilies(heard: readonly Candidate<Family>[], known: Family | null): Candidate<Family>[] {
  if (known === null || known === 'mix') return [];
  if ((heard.find(({ value }) => value === known)?.probability ?? 0) < ownFrom) return [];
  return heard.filter(({ value, probability }) => value !== known && probability >= saidFrom);
}
