import type { CandidateRequest } from '~/audio/candidate-request';

/** So many loops back a remote may mean with what it shows. */
const remembered = 12;

/**
 * What was heard lately, by numbers that tell nothing of it: a remote shows a number and sends it back, and means what it showed even if the
 * next one sounds by then.
 */
export class HeardTickets {
  private readonly requests = new Map<number, CandidateRequest>();
  private last = 0;

  /** The number of what is heard now; the same loop keeps its number as long as it is remembered, with the overrides it has now. */
  ticketOf(request: CandidateRequest | null): number | null {
    if (!request) return null;
    const { row, overrides, offsetBeats } = request,
      known = [...this.requests].find(([, each]) => each.row.id === row.id)?.[0] ?? ++this.last;
    // Set anew, so that the longest unheard one is the first to be forgotten.
    this.requests.delete(known);
    this.requests.set(known, { row, overrides, offsetBeats });
    for (const oldest of this.requests.keys()) {
      if (this.requests.size <= remembered) break;
      this.requests.delete(oldest);
    }
    return known;
  }

  requestOf(ticket: number): CandidateRequest | null {
    return this.requests.get(ticket) ?? null;
  }
}
