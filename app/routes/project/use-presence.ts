import { useCallback, useEffect, useMemo, useRef } from 'react';
import { create } from 'zustand';
import { presenceMs, type Present } from '~contracts/project-room';
import { api } from '~/ui/api';
import { live, useLive } from '~/ui/live';
import { newId } from '~/ui/new-id';

interface Seen extends Present {
  readonly atMs: number;
}

/** Who else has this project open, by page. */
const useSeen = create<{ readonly pages: ReadonlyMap<string, Seen> }>(() => ({ pages: new Map() }));

const pageId = newId();

function tell(projectId: number, clipId: string | null, leaves = false): void {
  // A page that leaves has no time to wait for an answer.
  void fetch(api.presence(projectId), {
    method: 'POST',
    keepalive: leaves,
    headers: { 'Content-Type': 'application/json' },
    body: JSON.stringify({ pageId, clipId, leaves }),
  }).catch(() => null);
}

/** Says that this page is here and which clip it holds, and knows the same of others. */
export function usePresence(projectId: number) {
  const held = useRef<string | null>(null),
    pages = useSeen((state) => state.pages),
    telling = useRef<ReturnType<typeof setTimeout> | null>(null);
  useEffect(() => {
    const say = () => tell(projectId, held.current),
      leave = () => tell(projectId, null, true),
      timer = setInterval(() => {
        say();
        // Who has not been heard of for long has left without a word.
        useSeen.setState(({ pages: now }) => {
          const there = [...now].filter(([, { atMs }]) => Date.now() - atMs < 2 * presenceMs);
          return there.length === now.size ? {} : { pages: new Map(there) };
        });
      }, presenceMs),
      closed = live.whenOpen(say);
    window.addEventListener('pagehide', leave);
    // The stream may stand already, from the page before.
    say();
    return () => {
      clearInterval(timer);
      closed();
      window.removeEventListener('pagehide', leave);
      leave();
      useSeen.setState({ pages: new Map() });
    };
  }, [projectId]);
  useLive('presence', (event) => {
    if (event.projectId !== projectId || event.pageId === pageId) return;
    const isNew = !useSeen.getState().pages.has(event.pageId);
    useSeen.setState(({ pages: before }) => {
      const next = new Map(before);
      if (event.leaves) next.delete(event.pageId);
      else next.set(event.pageId, { ...event, atMs: Date.now() });
      return { pages: next };
    });
    // Whoever comes is told at once who is here.
    if (isNew && !event.leaves) tell(projectId, held.current);
  });
  const hold = useCallback(
    (clipId: string | null) => {
      if (held.current === clipId) return;
      held.current = clipId;
      // From one clip to the next the focus is on none for a moment, and keys may go over many.
      telling.current ??= setTimeout(() => {
        telling.current = null;
        tell(projectId, held.current);
      }, 200);
    },
    [projectId],
  );
  const heldBy = useMemo(
    () => new Map([...pages.values()].flatMap(({ clipId, name }) => (clipId === null ? [] : [[clipId, name] as const]))),
    [pages],
  );
  return { heldBy, hold };
}

/** The names of those who have the project open too, each once. */
export const useOthersHere = (): string[] => {
  const pages = useSeen((state) => state.pages);
  return useMemo(() => [...new Set([...pages.values()].map(({ name }) => name))].sort(), [pages]);
};
