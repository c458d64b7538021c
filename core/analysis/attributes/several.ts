import { stemOf } from '../../names/fields';
import type { Source } from '../sources';
import { usual, type Attribute, type NamedFile, type Saying } from './attribute';

/** A value among several that may stand beside each other, with the words by which it is named. */
export interface NamedValue {
  readonly id: string;
  readonly label: string;
  readonly words: RegExp;
}

/** How far a word is believed, by where it stands: a folder is about more loops than this one. */
const believed: Readonly<Partial<Record<Source, number>>> = { tag: 0.85, 'file-name': 0.85, folder: 0.75 };

/** What words in the file's name, in its folders and in its tag say: each value as a list of one. */
export function sayingsOfWords(table: readonly NamedValue[], { path, genreTag }: NamedFile): Saying<readonly string[]>[] {
  const parts = path.split('/'),
    texts: readonly (readonly [Source, string])[] = [
      ['tag', genreTag ?? ''],
      ['file-name', stemOf(parts.at(-1) ?? '')],
      ['folder', parts.slice(0, -1).join(' / ')],
    ];
  return texts.flatMap(([source, text]) => {
    // Words in camel case are parted, but some are written so as one: both are looked at.
    const joined = text.replace(/[_\-.]+/g, ' '),
      readings = [joined, joined.replace(/([a-z])([A-Z])/g, '$1 $2')].map((each) => each.toLowerCase()),
      found = table.filter((each) => readings.some((words) => each.words.test(words)));
    if (found.length === 0) return [];
    const where = source === 'tag' ? 'tag' : source === 'folder' ? 'folder' : 'name';
    return [
      {
        source,
        candidates: found.map(({ id }) => ({ value: [id], probability: believed[source] ?? 0 })),
        reason: `${where} says ${found.map(({ label }) => label.toLowerCase()).join(', ')}`,
      },
    ];
  });
}

/** What an attribute of several values out of a table is; how it is heard and searched is for its own row to say. */
export function severalOf(
  table: readonly NamedValue[],
  { label, column, facet }: { readonly label: string; readonly column: string; readonly facet: string },
): Omit<Attribute<readonly string[]>, 'heardIn'> {
  const labelOf = (id: string): string => table.find((each) => each.id === id)?.label ?? id,
    find = (text: string) => table.find((each) => each.id === text || each.label.toLowerCase() === text),
    choices = table.map(({ id, label: name }) => ({ value: id, label: name }));
  return {
    ...usual,
    label,
    fused: 'each',
    same: (a, b) => a.length === b.length && a.every((each) => b.includes(each)),
    toText: (value) => (value.length > 0 ? value.join(', ') : 'none'),
    fromText: (text) => {
      if (text.trim().toLowerCase() === 'none') return [];
      const found = text.split(/[,;]/).map((each) => find(each.trim().toLowerCase())?.id ?? null);
      return found.includes(null) ? null : [...new Set(found as string[])];
    },
    inWords: (value) => (value.length > 0 ? value.map((each) => labelOf(each).toLowerCase()).join(', ') : 'none'),
    field: {
      label: `Another ${label.toLowerCase()}, or several with commas between: ${table.map((each) => each.label.toLowerCase()).join(', ')}; none`,
      placeholder: table
        .slice(0, 2)
        .map((each) => each.label.toLowerCase())
        .join(', '),
      isNumber: false,
    },
    columns: [{ name: column, type: 'texts', of: (value) => value ?? [] }],
    facets: [
      {
        name: facet,
        label: label.toLowerCase(),
        match: 'among',
        column,
        accepts: (text) => table.some(({ id }) => id === text),
        inWords: (text) => labelOf(text).toLowerCase(),
        choices,
      },
    ],
  };
}
