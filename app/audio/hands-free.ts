import { leadFrames } from './pace';
import type { EngineStore } from './store';
import { runningBeatAt, type Transport } from './transport';

/** Goes a step in the list that is on the page: the next loop is heard. */
export type ListStep = (delta: 1 | -1) => void;

/** Walks through the list by itself, so many bars each. */
export class HandsFree {
  private step: ListStep | null = null;
  /** Running beat from which the bars of the candidate count; null until it has its line. */
  private sinceBeat: number | null = null;

  constructor(
    private readonly store: EngineStore,
    private readonly play: () => Promise<unknown>,
  ) {}

  /** The list to walk through; null when it is gone. */
  setList(step: ListStep | null): void {
    this.step = step;
    if (!step) this.store.setState({ handsFree: null });
  }

  /** Begins to walk, or goes on with so many bars each; null ends it. @returns false where no list is on the page */
  async set(barsEach: number | null): Promise<boolean> {
    if (barsEach === null || !this.step) {
      this.store.setState({ handsFree: null });
      return barsEach === null;
    }
    await this.play();
    this.store.setState({ handsFree: { barsEach } });
    if (!this.store.getState().candidate) this.step(1);
    return true;
  }

  /** Goes on to the next or the one before, at once. */
  skip(delta: 1 | -1 = 1): void {
    this.step?.(delta);
  }

  /** A candidate has its line; null when none is heard. */
  count(fromBeat: number | null): void {
    this.sinceBeat = fromBeat;
  }

  /** Called by the clock: goes on when the candidate has had its bars, early enough for the next line. */
  scheduleAhead(transport: Transport, nowFrame: number): void {
    const { handsFree, candidate } = this.store.getState();
    if (!handsFree || this.sinceBeat === null || candidate?.phase === 'fitting') return;
    if (runningBeatAt(transport, nowFrame + leadFrames * 2) - this.sinceBeat < handsFree.barsEach * transport.barBeats) return;
    this.sinceBeat = null;
    this.skip();
  }
}
