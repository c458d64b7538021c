import { useRef, useState } from 'react';
import { inRoom } from '~contracts/room-address';
import { useProject } from '~/ui/project-store';
import type { Selection } from '~/ui/edit-many';
import { api } from '~/ui/api';
import { cursorOver, type Cursor } from './use-cursor';

/** Which loops of the list are chosen to be changed together: some by id, or all that the search finds. */
export interface Choice {
  readonly ids: ReadonlySet<number>;
  readonly isAll: boolean;
  readonly count: number;
  readonly has: (id: number) => boolean;
  readonly toggle: (index: number, id: number) => void;
  /** From where one was last chosen to here. */
  readonly extendTo: (index: number) => Promise<void>;
  readonly chooseAll: () => void;
  readonly clear: () => void;
  readonly selection: Selection;
}

const none: ReadonlySet<number> = new Set();

/**
 * @param address the search as it stands in an address
 * @param total of what it finds
 * @param idAt the loop at a place; null while its page is on its way
 * @param indexOf the place of a loop; -1 where it is in none of the pages that are here
 */
export function useChoice(address: string, total: number, idAt: (index: number) => number | null, indexOf: (id: number) => number): Choice {
  const projectId = useProject((state) => state.id),
    [ids, setIds] = useState(none),
    // All that one search finds is not all that the next one does.
    [allOf, setAllOf] = useState<string | null>(null),
    isAll = allOf === address,
    // Stays with its loop while others come in above it.
    [anchor, setAnchor] = useState<Cursor | null>(null),
    // What is still on its way when all is let go, or all chosen, comes too late.
    turn = useRef(0);
  const only = (next: ReadonlySet<number>) => {
    setAllOf(null);
    setIds(next);
  };
  return {
    ids,
    isAll,
    count: isAll ? total : ids.size,
    has: (id) => isAll || ids.has(id),
    toggle: (index, id) => {
      const next = new Set(isAll ? none : ids);
      if (!next.delete(id)) next.add(id);
      setAnchor({ index, id });
      only(next);
    },
    extendTo: async (index) => {
      const asked = turn.current,
        begun = anchor ? cursorOver(anchor, total, idAt, indexOf).index : -1,
        start = begun < 0 ? index : begun,
        from = Math.min(start, index),
        limit = Math.abs(start - index) + 1,
        response = await fetch(api.loopIds(inRoom(`?${address}&offset=${from}&limit=${limit}`, projectId))).catch(() => null);
      if (!response?.ok) return;
      const { ids: more } = (await response.json()) as { ids: number[] };
      if (asked !== turn.current) return;
      setAllOf(null);
      // Of two that were asked for one behind the other, either may come first.
      setIds((before) => new Set([...before, ...more]));
    },
    chooseAll: () => {
      turn.current++;
      setAllOf(address);
    },
    clear: () => {
      turn.current++;
      setAnchor(null);
      only(none);
    },
    // Some of a search goes by the project in the room: its name goes along.
    selection: isAll ? { address: inRoom(`?${address}`, projectId).slice(1) } : { ids: [...ids] },
  };
}
