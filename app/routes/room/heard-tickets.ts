import type { Wish } from '~/audio/wish';

/** So many loops back a remote may mean with what it shows. */
const remembered = 12;

/**
 * What was heard lately, by numbers that tell nothing of it: a remote shows a number and sends it back, and means what it showed even if the
 * next one sounds by then.
 */
export class HeardTickets {
  private readonly wishes = new Map<number, Wish>();
  private last = 0;

  /** The number of what is heard now; the same loop keeps its number as long as it is remembered, with the treatment it has now. */
  ticketOf(wish: Wish | null): number | null {
    if (!wish) return null;
    const { row, treatment, offsetBeats } = wish,
      known = [...this.wishes].find(([, each]) => each.row.id === row.id)?.[0] ?? ++this.last;
    // Set anew, so that the longest unheard one is the first to be forgotten.
    this.wishes.delete(known);
    this.wishes.set(known, { row, treatment, offsetBeats });
    for (const oldest of this.wishes.keys()) {
      if (this.wishes.size <= remembered) break;
      this.wishes.delete(oldest);
    }
    return known;
  }

  wishOf(ticket: number): Wish | null {
    return this.wishes.get(ticket) ?? null;
  }
}
