/** A part of a name between two of its separators. */
export interface NameField {
  readonly text: string;
  /** Where it stands in the name without its ending. */
  readonly start: number;
  readonly end: number;
}

/** How a name is put together: names of one shape are likely of one pattern. */
export interface NameShape {
  /** Its separator and how many parts it has, such as `_5`. */
  readonly signature: string;
  readonly fields: readonly NameField[];
}

/** Separators, the strongest first: what is parted by the first of them that a name has is not parted further. */
const separators: readonly (readonly [mark: string, pattern: RegExp])[] = [
  ['_', /_+/g],
  ['-', /\s+[-–—]\s+/g],
  [' ', /[\s,;()[\]{}]+/g],
  ['.', /(?<!\d)\.|\.(?!\d)|-/g],
];

/** A file's name without its ending. */
export const stemOf = (fileName: string): string => fileName.replace(/\.[A-Za-z0-9]{1,5}$/, '');

/**
 * Parts a name as its vendor did. @param stem without its ending
 * @example shapeOf('TRK_Piston_124_A1').signature // => '_4'
 */
export function shapeOf(stem: string): NameShape {
  const [mark, pattern] = separators.find(([, each]) => stem.search(each) > 0 && trimmed(stem, each).length > 1) ?? ['', null],
    fields = pattern === null ? trimmed(stem, /$^/g) : trimmed(stem, pattern);
  return { signature: `${mark}${fields.length}`, fields };
}

function trimmed(stem: string, pattern: RegExp): NameField[] {
  const found: NameField[] = [];
  let start = 0;
  const add = (end: number) => {
    const text = stem.slice(start, end),
      lead = text.length - text.trimStart().length;
    if (text.trim() !== '') found.push({ text: text.trim(), start: start + lead, end: start + lead + text.trim().length });
  };
  for (const match of stem.matchAll(pattern)) {
    if (match[0] === '') continue;
    add(match.index);
    start = match.index + match[0].length;
  }
  add(stem.length);
  return found;
}
