import { useEffect, useRef } from 'react';
import type { WholeLoop } from '~contracts/whole-loop';
import { live } from './live';

const gatherMs = 150,
  mostAtOnce = 200;

/** Rows as they are now. */
export async function fetchLoops(ids: readonly number[]): Promise<readonly WholeLoop[]> {
  const response = await fetch(`/api/v1/loops?${ids.map((id) => `id=${id}`).join('&')}`);
  return response.ok ? ((await response.json()) as { rows: WholeLoop[] }).rows : [];
}

/**
 * Gives rows whose facts have changed, as they are now: what shows them patches them, and nothing is loaded anew.
 * @param shows whether a loop is shown here at all: others are not asked for
 */
export function useChangedLoops(shows: (loopId: number) => boolean, take: (rows: readonly WholeLoop[]) => void): void {
  const latest = useRef({ shows, take });
  useEffect(() => {
    latest.current = { shows, take };
  });
  useEffect(() => {
    const changed = new Set<number>();
    let timer: ReturnType<typeof setTimeout> | null = null;
    const ask = () => {
        timer = null;
        const ids = [...changed].slice(0, mostAtOnce);
        changed.clear();
        void fetchLoops(ids).then(
          (rows) => latest.current.take(rows),
          () => {},
        );
      },
      stop = live.listen((event) => {
        if (event.kind !== 'library') return;
        for (const id of event.loopIds ?? []) if (latest.current.shows(id)) changed.add(id);
        if (changed.size > 0) timer ??= setTimeout(ask, gatherMs);
      });
    return () => {
      stop();
      if (timer) clearTimeout(timer);
    };
  }, []);
}
