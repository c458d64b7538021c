import { randomUUID } from 'node:crypto';
import { isMomentary, type LiveEvent } from '~contracts/live-event';

/** An event with the mark of the moment behind it. */
export interface MarkedEvent {
  readonly event: LiveEvent;
  readonly mark: string;
}

interface Numbered extends MarkedEvent {
  readonly number: number;
}

/**
 * The last that was announced, with a mark for each moment: a page that was made at a mark is told what came since. Marks hold for one process, and
 * up to the next gap in what it hears.
 */
export class RecentEvents {
  private era = randomUUID();
  private number = 0;
  private kept: Numbered[] = [];
  /** All up to this number is no longer kept. */
  private droppedTo = 0;

  /** @param most so many are kept at least, twice as many at most; what came since a mark before them is not known */
  constructor(private readonly most = 1000) {}

  /** The mark of this moment. */
  mark(): string {
    return `${this.era}:${this.number}`;
  }

  /** @returns the mark behind it */
  take(event: LiveEvent): string {
    this.number++;
    const mark = this.mark();
    if (!isMomentary(event)) this.kept.push({ number: this.number, event, mark });
    if (this.kept.length >= 2 * this.most) this.droppedTo = this.kept.splice(0, this.most).at(-1)?.number ?? this.droppedTo;
    return mark;
  }

  /** Something may have been announced that was not heard: no mark from before holds any longer. */
  forget(): void {
    this.era = randomUUID();
    this.number = 0;
    this.kept = [];
    this.droppedTo = 0;
  }

  /** @returns what came since a mark, the oldest first; null where that is not known */
  since(mark: string): readonly MarkedEvent[] | null {
    const [era, digits] = mark.split(':'),
      from = /^\d{1,15}$/.test(digits ?? '') ? Number(digits) : null;
    if (era !== this.era || from === null || from < this.droppedTo) return null;
    return this.kept.filter(({ number }) => number > from);
  }
}
