import type { LoopCard } from '~contracts/loop-card';
import { isWhole, type WholeLoop } from '~contracts/whole-loop';
import { fetchLoops } from './changed-loops';
import { live, type LiveClient } from './live';

const mostKept = 400;

/** Loops with all that hearing them needs, fetched when they come near being heard, several at once; forgotten when their facts change. */
export class WholeLoops {
  private readonly known = new Map<number, Promise<WholeLoop | null>>();
  private waiting: { readonly id: number; readonly take: (row: WholeLoop | null) => void }[] = [];

  constructor(
    private readonly fetchRows: (ids: readonly number[]) => Promise<readonly WholeLoop[]> = fetchLoops,
    events: Pick<LiveClient, 'listen'> | null = null,
  ) {
    events?.listen((event) => {
      if (event.kind === 'library') for (const id of event.loopIds ?? [...this.known.keys()]) this.known.delete(id);
    });
  }

  /** The whole of a loop; null when it is no longer there, or cannot be fetched now. */
  of(card: LoopCard): Promise<WholeLoop | null> {
    if (isWhole(card)) return Promise.resolve(card);
    let found = this.known.get(card.id);
    if (!found) {
      found = this.ask(card.id);
      this.known.set(card.id, found);
      // What could not be fetched is asked for again; of the others the oldest go.
      void found.then((row) => row === null && this.known.delete(card.id));
      if (this.known.size > mostKept) this.known.delete(this.known.keys().next().value as number);
    }
    return found;
  }

  async many(cards: readonly LoopCard[]): Promise<WholeLoop[]> {
    return (await Promise.all(cards.map((card) => this.of(card)))).filter((row) => row !== null);
  }

  /** What is asked for in one go is fetched in one go. */
  private ask(id: number): Promise<WholeLoop | null> {
    return new Promise((take) => {
      this.waiting.push({ id, take });
      if (this.waiting.length > 1) return;
      queueMicrotask(() => {
        const asked = this.waiting;
        this.waiting = [];
        this.fetchRows(asked.map((each) => each.id)).then(
          (rows) => asked.forEach((each) => each.take(rows.find((row) => row.id === each.id) ?? null)),
          () => asked.forEach((each) => each.take(null)),
        );
      });
    });
  }
}

/** Those of this page. */
let ofPage: WholeLoops | null = null;
export const wholeLoops = (): WholeLoops => (ofPage ??= new WholeLoops(fetchLoops, live));
