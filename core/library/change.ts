import { attributeRow, isAttribute, type AttributeName } from '../analysis/attributes/registry';

/** What may be done to many loops at once. */
export type Change =
  /** A person's word on a fact, as the attribute's codec writes it; null takes the word back. */
  | { readonly kind: 'fact'; readonly attribute: AttributeName; readonly value: string | null }
  | { readonly kind: 'tempo-times'; readonly factor: 0.5 | 2 }
  | { readonly kind: 'tag'; readonly name: string; readonly isWanted: boolean }
  /** See `titleBy`. */
  | { readonly kind: 'title'; readonly pattern: string }
  /** Into another pack, a new one when there is none of that name. */
  | { readonly kind: 'pack'; readonly name: string }
  /** Into one set of their pack; '' out of any. */
  | { readonly kind: 'set'; readonly stem: string }
  /** Into the collection of that name of who asks, a new one when there is none; or out of it. */
  | { readonly kind: 'collection'; readonly name: string; readonly isWanted: boolean }
  | { readonly kind: 'archive' };

export type ChangeKind = Change['kind'];

/** What a title may be made of. */
export interface TitleParts {
  readonly title: string;
  readonly file: string;
  readonly pack: string;
  readonly instrument: string;
  readonly tempo: string;
  readonly key: string;
}
export const titleTokens = ['title', 'file', 'pack', 'instrument', 'tempo', 'key', 'n'] as const;

const longestTitle = 200;

/**
 * A title by a pattern: `{instrument}`, `{tempo}` and the like stand for what is known, `{n}` for the place among the chosen from 1, `{n2}` and
 * `{n3}` with zeros in front. What is not known leaves nothing, and no double spaces.
 * @returns null when nothing would be left
 * @example titleBy('{instrument} {n2}', { …, instrument: 'Kick' }, 7) // => 'Kick 07'
 */
export function titleBy(pattern: string, parts: TitleParts, place: number): string | null {
  const made = pattern
    .replace(/\{n([23]?)\}/g, (_, digits: string) => String(place).padStart(Number(digits || 1), '0'))
    .replace(/\{(title|file|pack|instrument|tempo|key)\}/g, (_, name: keyof TitleParts) => parts[name])
    .replace(/\s+/g, ' ')
    .trim()
    .slice(0, longestTitle);
  return made === '' ? null : made;
}

/** What is wrong with a pattern, in words; null when it can be used. */
export function wrongInPattern(pattern: string): string | null {
  if (pattern.trim() === '') return 'Write a pattern, such as {instrument} {tempo} {n2}.';
  const unknown = [...pattern.matchAll(/\{([^}]*)\}/g)]
    .map(([, name]) => name)
    .find((name) => !/^(title|file|pack|instrument|tempo|key|n[23]?)$/.test(name));
  return unknown === undefined
    ? null
    : `There is no {${unknown}}. What can be used: ${titleTokens.map((token) => `{${token}}`).join(' ')}.`;
}

const text = (value: unknown, longest: number): string | null =>
  typeof value === 'string' && value.trim() !== '' && value.trim().length <= longest ? value.trim() : null;

/**
 * Reads a change from outside. @returns the change, or what is wrong with it in words
 */
export function readChange(asked: Readonly<Record<string, unknown>>): Change | string {
  switch (asked.kind) {
    case 'fact': {
      const attribute = String(asked.attribute);
      if (!isAttribute(attribute)) return 'There is no such fact.';
      if (asked.value === null) return { kind: 'fact', attribute, value: null };
      const value = attributeRow(attribute).fromText(String(asked.value ?? '').trim());
      return value === null
        ? 'That value does not fit.'
        : { kind: 'fact', attribute, value: attributeRow(attribute).toText(value as never) };
    }
    case 'tempo-times':
      return asked.factor === 0.5 || asked.factor === 2 ? { kind: 'tempo-times', factor: asked.factor } : 'A tempo is halved or doubled.';
    case 'tag': {
      const name = text(asked.name, 60);
      return name === null
        ? 'Name the tag, in up to 60 letters.'
        : { kind: 'tag', name: name.toLowerCase(), isWanted: asked.isWanted !== false };
    }
    case 'title': {
      const pattern = String(asked.pattern ?? ''),
        wrong = wrongInPattern(pattern);
      return wrong ?? { kind: 'title', pattern: pattern.slice(0, longestTitle) };
    }
    case 'pack': {
      const name = text(asked.name, 200);
      return name === null ? 'Name the pack.' : { kind: 'pack', name };
    }
    case 'set':
      return { kind: 'set', stem: text(asked.stem, 120) ?? '' };
    case 'collection': {
      const name = text(asked.name, 120);
      return name === null
        ? 'Name the collection, in up to 120 letters.'
        : { kind: 'collection', name, isWanted: asked.isWanted !== false };
    }
    case 'archive':
      return { kind: 'archive' };
    default:
      return 'There is no such change.';
  }
}

/** A change in words, for who looks at what happened. */
export function changeInWords(change: Change): string {
  switch (change.kind) {
    case 'fact': {
      const { label, inWords, fromText } = attributeRow(change.attribute),
        value = change.value === null ? null : fromText(change.value);
      return value === null ? `${label.toLowerCase()}: word taken back` : `${label.toLowerCase()}: ${inWords(value as never, 4)}`;
    }
    case 'tempo-times':
      return change.factor === 2 ? 'tempo doubled' : 'tempo halved';
    case 'tag':
      return change.isWanted ? `tagged “${change.name}”` : `tag “${change.name}” taken away`;
    case 'title':
      return `titles by “${change.pattern}”`;
    case 'pack':
      return `moved to the pack “${change.name}”`;
    case 'set':
      return change.stem === '' ? 'out of their sets' : `into the set “${change.stem}”`;
    case 'collection':
      return change.isWanted ? `into the collection “${change.name}”` : `out of the collection “${change.name}”`;
    case 'archive':
      return 'archived';
  }
}
