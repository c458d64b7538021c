import { drop, emptyShortlist, entryAt, hide, keep, note, type Shortlist } from './shortlist';
import type { EngineStore } from './store';
import type { CandidateRequest } from './candidate-request';

/** The shortlist as the engine holds it: every change is fitted ahead. */
export class ShortlistController {
  constructor(
    private readonly store: EngineStore,
    private readonly hear: (request: CandidateRequest) => Promise<void>,
    /** Fits ahead what is on the list now, and sets levels anew. */
    private readonly changed: () => void,
  ) {}

  private get list(): Shortlist {
    return this.store.getState().shortlist;
  }

  private put(shortlist: Shortlist): void {
    this.store.setState({ shortlist });
    this.changed();
  }

  /** Holds the candidate. @returns false when there is no place left */
  keepCandidate(): boolean {
    const { candidate } = this.store.getState();
    return candidate === null || this.keep(candidate);
  }

  /** Holds a loop as it is wished for. @returns false when there is no place left */
  keep(request: CandidateRequest): boolean {
    const kept = keep(this.list, request);
    this.put(kept.list);
    return !kept.full;
  }

  drop(loopId: number): void {
    this.put(drop(this.list, loopId));
  }

  note(loopId: number, text: string): void {
    this.put(note(this.list, loopId, text));
  }

  clear(): void {
    this.put(emptyShortlist);
  }

  /** Names away, order shuffled, level even; or back again. */
  setBlind(hidden: boolean): void {
    this.put(hide(this.list, hidden, Math.random));
  }

  get isBlind(): boolean {
    return this.list.blind !== null;
  }

  /** Hears what is under a digit. */
  hearDigit(digit: number): void {
    const entry = entryAt(this.list, digit);
    if (entry) void this.hear(entry);
  }
}
