import { useCallback, useEffect, useRef, useState } from 'react';
import { queryToParameters, type LoopQuery } from '~core/search/query';
import { pageRows } from '~contracts/page-rows';
import { inRoom } from '~contracts/room-address';
import { useSearchParams } from 'react-router';
import { rangeParameter } from '~contracts/heard-range';
import { ask } from '~/ui/ask';
import { useProject } from '~/ui/project-store';
import type { LoopCard } from '~contracts/loop-card';
import type { Found, FoundCard } from '~server/services/look-up.server';
import { OwnWords } from './own-words';

const againMs = 3000;

/** The rows of a search, fetched page by page as they come into view. `rowAt` is null while a page is on its way. */
export function usePages(
  query: LoopQuery,
  first: Found,
): {
  rowAt: (index: number) => FoundCard | null;
  /** Whether a loop is among the rows that are here. */
  has: (id: number) => boolean;
  /** Its place in the list; -1 where it is not among the rows that are here. */
  indexOf: (id: number) => number;
  want: (from: number, to: number) => void;
  /** Rows that were changed elsewhere. */
  take: (rows: readonly LoopCard[]) => void;
  /** What this person says of a loop here: shown at once, whatever list is still on its way. */
  say: OwnWords['say'];
} {
  const pages = useRef(new Map<number, readonly FoundCard[]>()),
    asked = useRef(new Set<number>()),
    source = useRef<Found | null>(null),
    [own] = useState(() => new OwnWords()),
    [, redraw] = useState(0);
  const [parameters] = useSearchParams(),
    over = parameters.get(rangeParameter);
  const address = inRoom(
      `?${new URLSearchParams([...queryToParameters(query), ...(over === null ? [] : [[rangeParameter, over]])])}`,
      useProject(({ id }) => id),
    ),
    current = useRef(address);
  /* eslint-disable react-hooks/refs -- the cache belongs to the data the loader gave, and is emptied in the render that brings new data */
  if (source.current !== first) {
    source.current = first;
    current.current = address;
    pages.current = new Map([[0, own.over(first.rows)]]);
    asked.current = new Set([0]);
  }
  /* eslint-enable react-hooks/refs */
  const isHere = useRef(true);
  useEffect(() => {
    isHere.current = true;
    return () => void (isHere.current = false);
  }, []);
  const want = useCallback(
    (from: number, to: number) => {
      const owner = pages.current;
      const fetchPage = async (page: number): Promise<void> => {
        if (owner !== pages.current || asked.current.has(page)) return;
        asked.current.add(page);
        const found = await ask<Found>(`/api/v1/loops${current.current}&offset=${page * pageRows}`);
        if (owner !== pages.current || !isHere.current) return;
        if (found.ok) {
          owner.set(page, own.over(found.answer.rows));
          redraw((n) => n + 1);
        } else {
          // A page that could not be had is no hole in the list for good.
          await new Promise((next) => setTimeout(next, againMs));
          if (owner === pages.current) asked.current.delete(page);
          if (isHere.current) await fetchPage(page);
        }
      };
      for (let page = Math.floor(from / pageRows); page <= Math.floor(to / pageRows); page++) void fetchPage(page);
    },
    [own],
  );
  useEffect(() => {
    current.current = address;
  }, [address]);
  const rowAt = (index: number) => pages.current.get(Math.floor(index / pageRows))?.[index % pageRows] ?? null;
  const patch = (id: number, changes: Partial<LoopCard>) => {
      for (const [page, rows] of pages.current)
        if (rows.some((row) => row.id === id))
          pages.current.set(
            page,
            rows.map((row) => (row.id === id ? { ...row, ...changes } : row)),
          );
      redraw((n) => n + 1);
    },
    take = (rows: readonly LoopCard[]) => own.over(rows).forEach((row) => patch(row.id, row)),
    say: OwnWords['say'] = (loopId, words) => {
      own.say(loopId, words);
      patch(loopId, words);
    };
  const indexOf = (id: number): number => {
    for (const [page, rows] of pages.current) {
      const at = rows.findIndex((row) => row.id === id);
      if (at >= 0) return page * pageRows + at;
    }
    return -1;
  };
  const has = useCallback((id: number) => [...pages.current.values()].some((rows) => rows.some((row) => row.id === id)), []);
  return { rowAt, has, indexOf, want, take, say };
}
