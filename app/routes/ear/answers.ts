import type { Candidate } from '~core/analysis/facts';
import { withHalfAndDouble } from '~/ui/fact-words';
import type { Doubt } from '~server/services/doubts.server';

/** What can be said of a doubtful fact, the present guess first. */
export function answersOf({
  attribute,
  value,
  confidence,
  rivals,
}: Pick<Doubt, 'attribute' | 'value' | 'confidence' | 'rivals'>): Candidate[] {
  const others = attribute === 'tempo' ? withHalfAndDouble(rivals.slice(0, 1), Number(value)) : rivals;
  return [{ value, probability: confidence }, ...others].slice(0, 4);
}

/** Why the guess is not the likeliest of its rivals, in words; null when it is. */
export function whyNotTheLikeliest({ confidence, rivals, reasons }: Pick<Doubt, 'confidence' | 'rivals' | 'reasons'>): string | null {
  return rivals.some(({ probability }) => probability > confidence) ? (reasons.at(-1) ?? null) : null;
}
