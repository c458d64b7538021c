/** Where somebody stands in a list that changes under them. */
export interface Standing {
  /** Which list it is: in another one begins at its start. */
  readonly list: string;
  readonly name: string | null;
  /** All of the list when that was so. */
  readonly names: readonly string[];
}

export const nowhere: Standing = { list: '', name: null, names: [] };

/**
 * The index at which somebody stands now: at the one where they stood, wherever it has moved to; where it is gone, at the one that came next in
 * the list as it was, else at the one before. -1 in an empty list.
 */
export function standIn(list: string, names: readonly string[], before: Standing): number {
  const first = names.length > 0 ? 0 : -1;
  if (before.list !== list || before.name === null) return first;
  const stood = before.names.indexOf(before.name),
    here = new Map(names.map((name, index) => [name, index])),
    isHere = (name: string): boolean => here.has(name),
    name = before.names.slice(stood).find(isHere) ?? before.names.slice(0, stood).findLast(isHere);
  return name === undefined ? first : (here.get(name) ?? first);
}
