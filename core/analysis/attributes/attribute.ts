import type { Family } from '../../theory/instruments';
import type { Key } from '../../theory/key';
import type { Part } from '../parts';
import type { Source } from '../sources';
import type { LoopKind } from './loop-kinds';

/** What the facts of a loop come to, as columns and engines use it. */
export interface SettledValues {
  readonly kind: LoopKind;
  readonly tempoBpm: number | null;
  readonly beats: number | null;
  readonly bars: number | null;
  readonly meter: string | null;
  readonly key: Key | null;
  readonly pitched: boolean | null;
  readonly instrument: string | null;
  readonly family: Family | null;
  /** Where bar 1 begins, seconds of the file. */
  readonly firstBarSeconds: number;
}

/** A column of a loop that follows from an attribute. */
export interface AttributeColumn<V> {
  readonly name: string;
  readonly type: 'text' | 'texts' | 'real' | 'double' | 'smallint' | 'boolean';
  /** @param value what was chosen of the attribute; null when nothing was @param settled what all attributes come to together */
  readonly of: (value: V | null, settled: SettledValues) => string | number | boolean | readonly string[] | null;
}

/** By what a list is narrowed, and what is counted beside it. */
export interface Facet {
  /** Name in addresses, such as `key` in `key=2m`. */
  readonly name: string;
  /** What its choice is called. */
  readonly label: string;
  /** How a choice is held against the column: the column is it, is the number, holds it among others; a key has a code of several columns. */
  readonly match: 'text' | 'number' | 'among' | 'key' | 'id' | 'pack' | 'collection' | 'folder';
  readonly column: string;
  /** Whether what there is of it is counted beside the list; by default it is. */
  readonly isCounted?: boolean;
  readonly accepts: (text: string) => boolean;
  /** A choice in words, as a step of the sentence. */
  readonly inWords: (text: string) => string;
  /** All there is to choose from, where that is a list. */
  readonly choices: readonly Choice[] | null;
}

export interface Choice {
  readonly value: string;
  readonly label: string;
}

/** What a name estimator is told of a file. */
export interface NamedFile {
  /** The vendor's path with folders, `/` between them. */
  readonly path: string;
  readonly genreTag: string | null;
}

/** What one source says in an estimator's words. */
export interface Saying<V> {
  readonly source: Source;
  readonly candidates: readonly { readonly value: V; readonly probability: number }[];
  readonly reason: string;
}

/** Everything that the product has to know of an attribute; the registry holds one for each, and all else walks it. */
export interface Attribute<V> {
  readonly label: string;
  /** `vote`: sources vote for one value. `each`: values stand beside each other, each with a chance of its own; a person's word is all of them. */
  readonly fused: 'vote' | 'each';
  readonly same: (a: V, b: V) => boolean;
  /** Whether a witness for `said` speaks for `value` though they are not the same. */
  readonly alsoSupports?: (said: V, value: V, source: Source) => boolean;
  /** How often a source speaks of this loop at all, where that is another share than in general. */
  readonly trust?: Readonly<Partial<Record<Source, number>>>;
  /** The form in which a value stands in forms and addresses. */
  readonly toText: (value: V) => string;
  /** @returns null for what is no value of it */
  readonly fromText: (text: string) => V | null;
  readonly inWords: (value: V, barBeats: number) => string;
  /** All values there are, for lists to choose from; null: it is typed. */
  readonly choices: readonly Choice[] | null;
  /** What stands beside and in the field in which it is typed. */
  readonly field: { readonly label: string; readonly placeholder: string; readonly isNumber: boolean };
  /** Shown of these kinds even where nothing is known; null: of all. */
  readonly kinds: readonly LoopKind[] | null;
  /** Whether one can judge it by ear: it comes into the queue of doubts, and has a column `…_confidence`. */
  readonly isDoubted: boolean;
  /** The part of the analysis that hears it. */
  readonly heardIn: Part;
  /** Whether bars hang on it. */
  readonly shapesBars: boolean;
  /** Attributes on which a person's earlier word no longer stands once there is one on this. */
  readonly unsays: readonly string[];
  readonly columns: readonly AttributeColumn<V>[];
  readonly facets: readonly Facet[];
  /** What names and tags say of it, where that is an estimator of its own. */
  readonly fromNames?: (file: NamedFile) => Saying<V>[];
  /** What words of character, measured on the sound, say of it. */
  readonly fromCharacter?: (words: readonly string[]) => Saying<V>[];
}

export const repeating: readonly LoopKind[] = ['loop', 'full-mix'];

/** What most attributes are: one value by vote, the same when equal, for all kinds. */
export const usual = {
  fused: 'vote',
  same: (a: unknown, b: unknown) => a === b,
  choices: null,
  field: { label: '', placeholder: '', isNumber: false },
  kinds: null,
  isDoubted: false,
  shapesBars: false,
  unsays: [],
  columns: [],
  facets: [],
} as const;

/** A number as it is typed, with a point or a comma, within limits; null for anything else. */
export function typedNumber(text: string, lowest: number, highest: number): number | null {
  const value = Number(text.replace(',', '.'));
  return text.trim() !== '' && value >= lowest && value <= highest ? value : null;
}
