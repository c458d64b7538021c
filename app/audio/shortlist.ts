import type { CandidateRequest } from './candidate-request';

export const shortlistPlaces = 8;

export interface ShortlistEntry extends CandidateRequest {
  readonly note: string;
}

export interface Shortlist {
  readonly entries: readonly ShortlistEntry[];
  /** Names hidden: the entry under each digit, in an order that nobody knows. null while names are shown. */
  readonly blind: readonly number[] | null;
}

export const emptyShortlist: Shortlist = { entries: [], blind: null };

/** With a request more; a loop that is there already is taken as it is now. `full` when no place is left. */
export function keep(list: Shortlist, request: CandidateRequest): { readonly list: Shortlist; readonly full: boolean } {
  const { row, overrides, offsetBeats } = request,
    at = list.entries.findIndex((entry) => entry.row.id === row.id);
  if (at >= 0) return { list: { ...list, entries: list.entries.with(at, { ...list.entries[at], overrides, offsetBeats }) }, full: false };
  if (list.entries.length >= shortlistPlaces) return { list, full: true };
  // A new one would be known by its place: names are shown again.
  return { list: { entries: [...list.entries, { row, overrides, offsetBeats, note: '' }], blind: null }, full: false };
}

export function drop(list: Shortlist, loopId: number): Shortlist {
  return { entries: list.entries.filter((entry) => entry.row.id !== loopId), blind: null };
}

export function note(list: Shortlist, loopId: number, text: string): Shortlist {
  return { ...list, entries: list.entries.map((entry) => (entry.row.id === loopId ? { ...entry, note: text.slice(0, 120) } : entry)) };
}

/** Hides the names behind a shuffled order (Fisher & Yates), or shows them again. */
export function hide(list: Shortlist, hidden: boolean, random: () => number): Shortlist {
  if (!hidden || list.entries.length < 2) return { ...list, blind: null };
  const order = list.entries.map((_, k) => k);
  for (let k = order.length - 1; k > 0; k--) {
    const other = Math.floor(random() * (k + 1));
    [order[k], order[other]] = [order[other], order[k]];
  }
  return { ...list, blind: order };
}

/** The entry under a digit from 1 on; null where there is none. */
export const entryAt = (list: Shortlist, digit: number): ShortlistEntry | null =>
  list.entries[list.blind ? (list.blind[digit - 1] ?? -1) : digit - 1] ?? null;

/** The digit of a loop; null when it is not on the list. */
export function digitOf(list: Shortlist, loopId: number): number | null {
  const at = list.entries.findIndex((entry) => entry.row.id === loopId);
  if (at < 0) return null;
  return (list.blind ? list.blind.indexOf(at) : at) + 1;
}
