import type { LoopCard } from '~contracts/loop-card';

type Said = Partial<Pick<LoopCard, 'favourite' | 'stars' | 'note'>>;

/** What was said of loops on this page and is not in the rows that came: a list that set out before it was kept arrives behind it. */
export class OwnWords {
  private readonly said = new Map<number, Said>();

  say(loopId: number, words: Said): void {
    this.said.set(loopId, { ...this.said.get(loopId), ...words });
  }

  /** Rows as they came, under what was said here. What they know by now is theirs again. */
  over<R extends LoopCard>(rows: readonly R[]): readonly R[] {
    if (this.said.size === 0) return rows;
    return rows.map((row) => {
      const words = this.said.get(row.id);
      if (!words) return row;
      const isKnown = (Object.keys(words) as (keyof Said)[]).every((key) => row[key] === words[key]);
      if (isKnown) this.said.delete(row.id);
      return isKnown ? row : { ...row, ...words };
    });
  }
}
