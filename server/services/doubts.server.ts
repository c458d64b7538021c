import { attributeRow, doubtAttributes, type DoubtAttribute } from '~core/analysis/attributes/registry';
import type { Candidate } from '~core/analysis/facts';
import { selectRows } from '../db/connection';
import {
  alikeSql,
  doubtCountsSql,
  doubtsOfPackSql,
  doubtsSql,
  packsInDoubtSql,
  packWeightsSql,
  type PacksOfWeight,
} from '../db/queries/doubts';
import type { WholeLoop } from '~contracts/whole-loop';
import { chosenFactsOf } from './facts.server';
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
  /** Those most worth settling first; no more than a page of them. */
  readonly doubts: readonly Doubt[];
}

export interface DoubtsAsked {
  /** One kind of fact; null for all. */
  readonly only: DoubtAttribute | null;
  readonly packId: number | null;
  /** How many are passed over. */
  readonly from: number;
}

/** A page of doubtful facts, those most worth settling first. */
export async function findDoubts(personId: number, { only, packId, from }: DoubtsAsked, limit = doubtsAtOnce): Promise<DoubtQueue> {
  const asked = doubtAttributes.filter((attribute) => only === null || attribute === only),
    { sql, bind } =
      packId === null
        ? doubtsSql(asked, await selectRows<PacksOfWeight>(packWeightsSql, [personId]), limit, from)
        : { sql: doubtsOfPackSql(asked), bind: [limit, from, packId] },
    [counts, found] = await Promise.all([countDoubts(packId), selectRows<{ id: number; attribute: DoubtAttribute }>(sql, bind)]);
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

/** How many facts of each kind are in doubt, in a pack or in all. */
export async function countDoubts(packId: number | null = null): Promise<Readonly<Record<DoubtAttribute, number>>> {
  const [row] = await selectRows<Record<DoubtAttribute, number>>(doubtCountsSql, [packId]);
  return row;
}

/** How far a pack is. */
export interface PackInDoubt {
  readonly id: number;
  readonly name: string;
  readonly doubts: number;
  readonly facts: number;
}

export const packsInDoubt = (): Promise<PackInDoubt[]> => selectRows<PackInDoubt>(packsInDoubtSql);

/** A doubt beside another one: of the same pack, on the same fact. */
export interface AlikeDoubt {
  readonly loopId: number;
  /** What is guessed, as the attribute's codec writes it; null where nobody asked. */
  readonly guess: string | null;
  readonly isOfSet: boolean;
}

/** The other doubts on a fact in a loop's pack. @param withGuesses what each is guessed to be, for which all that is said of them has to be read */
export async function findAlike(loopId: number, attribute: DoubtAttribute, withGuesses = false): Promise<AlikeDoubt[]> {
  const found = await selectRows<{ id: number; isOfSet: boolean }>(alikeSql(attribute), [loopId]);
  if (!withGuesses) return found.map(({ id, isOfSet }) => ({ loopId: id, guess: null, isOfSet }));
  const chosen = await chosenFactsOf(found.map(({ id }) => id));
  return found.flatMap(({ id, isOfSet }) => {
    const value = chosen.get(id)?.[attribute]?.value;
    return value === undefined ? [] : [{ loopId: id, guess: attributeRow(attribute).toText(value as never), isOfSet }];
  });
}
