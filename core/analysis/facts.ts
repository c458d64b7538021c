import { attributeRow, type AttributeName, type FactValues } from './attributes/registry';
import type { Source } from './sources';

export type Attribute = AttributeName;

/** From here on a fact is shown without a mark of doubt. */
export const sureFrom = 0.85;

export interface Candidate<V = unknown> {
  readonly value: V;
  /** 0–1; the candidates of one evidence sum to at most 1, but for values that stand beside each other. */
  readonly probability: number;
}

/** What one source says of one attribute: a distribution, not a value, and why, in words. */
export interface Evidence<A extends Attribute = Attribute> {
  readonly attribute: A;
  readonly source: Source;
  readonly candidates: readonly Candidate<FactValues[A]>[];
  readonly reason: string;
}

/** What one source has to say about an attribute: its candidates, likeliest first, and the reason in words. */
export function evidence<A extends Attribute>(
  attribute: A,
  source: Source,
  candidates: readonly Candidate<FactValues[A]>[],
  reason: string,
): Evidence<A> {
  return { attribute, source, candidates, reason };
}

/** Whether a witness for `said` speaks for `value`: where they mean the same, and where a source is known to round. */
export function supports<A extends Attribute>(attribute: A, said: FactValues[A], value: FactValues[A], source: Source): boolean {
  const { same, alsoSupports } = attributeRow(attribute);
  return same(said, value) || alsoSupports?.(said, value, source) === true;
}

/** Two values that mean the same. */
export const sameValue = <A extends Attribute>(attribute: A, a: FactValues[A], b: FactValues[A]): boolean =>
  attributeRow(attribute).same(a, b);
