import type { NamedFile, Saying } from './attributes/attribute';
import { attributeRow, attributes } from './attributes/registry';
import { evidence, type Attribute, type Evidence } from './facts';

const asEvidence = (attribute: Attribute, sayings: readonly Saying<never>[]): Evidence[] =>
  sayings
    .filter(({ candidates }) => candidates.length > 0)
    .map(({ source, candidates, reason }) => evidence(attribute, source, candidates, reason));

/** What names, folders and tags say of the attributes that have an estimator of their own for them. */
export const labelsOfNames = (file: NamedFile): Evidence[] =>
  attributes.flatMap((name) => asEvidence(name, (attributeRow(name).fromNames?.(file) ?? []) as Saying<never>[]));

/** What words of character that were measured say of attributes. */
export const labelsOfCharacter = (words: readonly string[]): Evidence[] =>
  attributes.flatMap((name) => asEvidence(name, (attributeRow(name).fromCharacter?.(words) ?? []) as Saying<never>[]));
