import { attributeRow, type AttributeName } from '../analysis/attributes/registry';

/** What a person said of a doubtful fact: what was guessed, and what it became. Values in the attribute's own values. */
export interface Answer {
  readonly attribute: AttributeName;
  readonly packId: number;
  readonly loopId: number;
  readonly guess: unknown;
  readonly answer: unknown;
}

/** What several answers have in common, and can be done to others. */
export type Rule =
  | { readonly kind: 'agree' }
  | { readonly kind: 'times'; readonly factor: 0.5 | 2 }
  /** What is taken for one thing is another, as `toText` of the attribute writes them. */
  | { readonly kind: 'becomes'; readonly from: string; readonly to: string };

/** So many alike make a rule. */
export const answersForRule = 3;

const sameText = (attribute: AttributeName, value: unknown): string => attributeRow(attribute).toText(value as never);

function ruleBehind({ attribute, guess, answer }: Answer): Rule {
  const { same } = attributeRow(attribute);
  if (same(guess as never, answer as never)) return { kind: 'agree' };
  if (attribute === 'tempo')
    for (const factor of [0.5, 2] as const) if (same((Number(guess) * factor) as never, answer as never)) return { kind: 'times', factor };
  return { kind: 'becomes', from: sameText(attribute, guess), to: sameText(attribute, answer) };
}

/**
 * What the last answers on a fact in a pack have in common; null while there are fewer than three, or they are not alike.
 * @param answers of any facts and packs, the newest last
 */
export function ruleOf(
  answers: readonly Answer[],
): { readonly rule: Rule; readonly attribute: AttributeName; readonly packId: number } | null {
  const last = answers.at(-1);
  if (!last) return null;
  const alike = answers
    .filter(({ attribute, packId }) => attribute === last.attribute && packId === last.packId)
    .slice(-answersForRule)
    .map(ruleBehind);
  return alike.length === answersForRule && alike.every((rule) => JSON.stringify(rule) === JSON.stringify(alike[0]))
    ? { rule: alike[0], attribute: last.attribute, packId: last.packId }
    : null;
}

/** Whether a rule says anything of a fact that is guessed to be so. */
export const appliesTo = (rule: Rule, attribute: AttributeName, guess: unknown): boolean =>
  rule.kind !== 'becomes' || sameText(attribute, guess) === rule.from;

/** A rule as a sentence that begins with what was done. @example ruleInWords({ kind: 'times', factor: 2 }, 'tempo') // => 'doubled the tempo' */
export function ruleInWords(rule: Rule, attribute: AttributeName): string {
  const { label, inWords, fromText } = attributeRow(attribute),
    fact = label.toLowerCase(),
    words = (text: string) => inWords(fromText(text) as never, 4);
  if (rule.kind === 'agree') return `agreed with the ${fact}`;
  if (rule.kind === 'times') return `${rule.factor === 2 ? 'doubled' : 'halved'} the tempo`;
  return `made ${fact} ${words(rule.from)} to ${words(rule.to)}`;
}
