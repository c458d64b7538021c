import { useEffect } from 'react';
import type { AudioEngine } from '~/audio/engine';
import type { CandidateRequest } from '~/audio/candidate-request';
import type { ProjectStore } from '~/ui/project-store';
import { api } from '~/ui/api';
import { isOutside } from '~contracts/whole-loop';
import { noOverrides, type ClipOverrides } from '~core/arrangement/fit-settings';

/** A candidate; alone when no project plays with it. */
type Sounding = CandidateRequest & { readonly alone: boolean };

/** What is only passed by was not heard. */
const keptAfterMs = 1500;

const changed = (overrides: ClipOverrides): Partial<ClipOverrides> =>
  Object.fromEntries(Object.entries(overrides).filter(([name, value]) => value !== noOverrides[name as keyof ClipOverrides]));

/** Keeps what sounds for more than a moment, with what is done to it. */
export function useHearings(engine: AudioEngine, projectStore: ProjectStore): void {
  useEffect(() => {
    let timer: number | null = null,
      now: Sounding | null = null;
    const keep = ({ row, overrides, offsetBeats, alone }: Sounding) =>
      void fetch(api.heard, {
        method: 'post',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({
          loopId: row.id,
          projectId: alone ? null : projectStore.store.getState().id,
          overrides: changed(overrides),
          offsetBeats,
        }),
      }).catch(() => {});
    const stop = engine.store.subscribe(({ candidate }) => {
      const sounding = candidate?.phase === 'sounding' && !isOutside(candidate.row.id) ? candidate : null;
      if (sounding?.row.id === now?.row.id && sounding?.overrides === now?.overrides && sounding?.offsetBeats === now?.offsetBeats) return;
      now = sounding;
      if (timer !== null) clearTimeout(timer);
      timer = sounding ? window.setTimeout(() => keep(sounding), keptAfterMs) : null;
    });
    return () => {
      stop();
      if (timer !== null) clearTimeout(timer);
    };
  }, [engine, projectStore]);
}
