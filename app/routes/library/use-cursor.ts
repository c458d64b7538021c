import { useState } from 'react';

/** The row that keys are for: its place in the list, and the loop that stood there when it was chosen. */
export interface Cursor {
  readonly index: number;
  /** null while the row is on its way. */
  readonly id: number | null;
}
export const noCursor: Cursor = { index: -1, id: null };

/**
 * The cursor over a list that may have changed under it: it stays with its loop. Where that one is in none of the pages that are here, there is no
 * cursor: a key that would be for another loop than was chosen is for none.
 * @param idAt the loop at a place; null while its page is on its way
 * @param indexOf the place of a loop; -1 where it is in none of the pages that are here
 */
export function cursorOver(cursor: Cursor, total: number, idAt: (index: number) => number | null, indexOf: (id: number) => number): Cursor {
  if (cursor.index < 0) return cursor;
  const id = cursor.index < total ? idAt(cursor.index) : null;
  if (id !== null && cursor.id === null) return { ...cursor, id };
  if (id === cursor.id || (id === null && cursor.index < total)) return cursor;
  const index = cursor.id === null ? -1 : indexOf(cursor.id);
  return index < 0 ? noCursor : { ...cursor, index };
}

/** Keeps a list's cursor. @returns its place, -1 for none, and what moves it */
export function useCursor(
  total: number,
  idAt: (index: number) => number | null,
  indexOf: (id: number) => number,
): [index: number, moveTo: (index: number) => void] {
  const [cursor, setCursor] = useState(noCursor),
    now = cursorOver(cursor, total, idAt, indexOf);
  if (now !== cursor) setCursor(now);
  return [now.index, (index) => setCursor(index < 0 ? noCursor : { index, id: idAt(index) })];
}
