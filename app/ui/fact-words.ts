import { attributeRow } from '~core/analysis/attributes/registry';
import type { Attribute, Candidate } from '~core/analysis/facts';

export const factLabel = (attribute: Attribute): string => attributeRow(attribute).label;

/** A fact's value in words. */
export const inWords = (attribute: Attribute, value: unknown, barBeats: number): string =>
  attributeRow(attribute).inWords(value as never, barBeats);

/** The form in which a value is sent back. */
export const toField = (attribute: Attribute, value: unknown): string => attributeRow(attribute).toText(value as never);

/** `sure`, `82 %`. */
export function percent(confidence: number): string {
  return confidence > 0.995 ? 'sure' : `${Math.round(confidence * 100)} %`;
}

/** A tempo's rivals, half and double always among them. */
export function withHalfAndDouble(rivals: readonly Candidate[], tempo: number): Candidate[] {
  const near = (a: number, b: number) => Math.abs(a / b - 1) < 0.005;
  const extra = [tempo / 2, tempo * 2]
    .filter((each) => each >= 20 && each <= 400 && !rivals.slice(0, 4).some((rival) => near(Number(rival.value), each)))
    .map((each) => ({ value: each, probability: 0 }));
  return [...rivals.slice(0, 4), ...extra];
}
