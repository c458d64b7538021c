import type { Key } from '../theory/key';
import { shapeOf, type NameField } from './fields';
import { keyOfField, patternFor, tempoOfField, type FieldRole, type NamePattern } from './pattern';

/** A part of a name with what it is taken for. */
export interface ReadField extends NameField {
  readonly role: FieldRole;
}

export interface PatternReading {
  readonly fields: readonly ReadField[];
  readonly tempoBpm: number | null;
  readonly key: Key | null;
  /** The key has its mode beside it. */
  readonly hasMode: boolean;
  /** What words are left when tempo, key, counting and codes are taken out. */
  readonly words: string;
}

/** Reads a name as all of its shape in its pack are read. @returns null where no pattern of its shape is known */
export function readByPattern(stem: string, patterns: readonly NamePattern[]): PatternReading | null {
  const pattern = patternFor(stem, patterns);
  if (!pattern) return null;
  const fields = shapeOf(stem).fields.map((field, k): ReadField => ({ ...field, role: pattern.roles[k] ?? 'words' })),
    textOf = (role: FieldRole) => fields.find((field) => field.role === role)?.text ?? '',
    keyText = textOf('key');
  return {
    fields,
    tempoBpm: tempoOfField(textOf('tempo')),
    key: keyOfField(keyText),
    hasMode: /m/i.test(keyText.slice(1)),
    words: fields
      .filter(({ role }) => role === 'words')
      .map(({ text }) => text)
      .join(' '),
  };
}
