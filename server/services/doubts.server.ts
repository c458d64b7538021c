import { doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import type { Candidate } from '~core/analysis/facts';
import { selectRows } from '../db/connection';
import { doubtCountsSql, doubtsSql } from '../db/queries/doubts';
import type { WholeLoop } from '~contracts/whole-loop';
import { agreeWithFact, chosenFactsOf, withdrawCorrection } from './facts.server';
import { findRowsById } from './search.server';

/** So many doubts are listed at a time. */
export const doubtsAtOnce = 60;

/** One fact of one loop that nobody has settled. */
export interface Doubt {
  readonly row: WholeLoop;
  readonly attribute: DoubtAttribute;
  readonly value: unknown;
  readonly confidence: number;
  readonly rivals: readonly Candidate[];
  readonly reasons: readonly string[];
}

export interface DoubtQueue {
  readonly counts: Readonly<Record<DoubtAttribute, number>>;
  /** The most doubtful first; no more than a page of them. */
  readonly doubts: readonly Doubt[];
}

/** The queue of doubtful facts, its first `limit`. @param only one kind of fact; null for all */
export async function findDoubts(personId: number, only: DoubtAttribute | null = null, limit = doubtsAtOnce): Promise<DoubtQueue> {
  const asked = doubtAttributes.filter((attribute) => only === null || attribute === only),
    counts = await countDoubts(),
    found = await selectRows<{ id: number; attribute: DoubtAttribute }>(doubtsSql(asked), [limit]);
  const ids = [...new Set(found.map(({ id }) => id))],
    rows = new Map((await findRowsById(ids, personId)).map((row) => [row.id, row])),
    chosen = await chosenFactsOf(ids);
  return {
    counts,
    doubts: found.flatMap(({ id, attribute }): Doubt[] => {
      const row = rows.get(id),
        fact = chosen.get(id)?.[attribute];
      return row && fact
        ? [{ row, attribute, value: fact.value, confidence: fact.confidence, rivals: fact.alternatives.slice(0, 4), reasons: fact.reasons }]
        : [];
    }),
  };
}

/** How many facts of each kind are in doubt. */
export async function countDoubts(): Promise<Readonly<Record<DoubtAttribute, number>>> {
  const [row] = await selectRows<Record<DoubtAttribute, number>>(doubtCountsSql);
  return row;
}

export interface FactName {
  readonly loopId: number;
  readonly attribute: DoubtAttribute;
}

/** A person agrees with what is shown: each fact becomes their word, with the value it has now. */
export async function agree(facts: readonly FactName[], personId: number): Promise<void> {
  for (const { loopId, attribute } of facts) await agreeWithFact(loopId, attribute, personId);
}

/** Takes that back: the detectors speak again. */
export async function takeBack(facts: readonly FactName[], personId: number): Promise<void> {
  for (const { loopId, attribute } of facts) await withdrawCorrection(loopId, attribute, personId);
}
