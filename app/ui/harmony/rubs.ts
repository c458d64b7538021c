import { useEffect } from 'react';
import { useStore } from 'zustand';
import { createStore } from 'zustand/vanilla';
import type { LoopSource } from '~core/arrangement/fit-request';
import type { Mend, Rub } from '~core/arrangement/harmony/clash-meter';
import type { Project } from '~core/arrangement/tree';
import type { WholeLoop } from '~contracts/whole-loop';
import type { RubsMessage, RubsReply } from '~workers/rubs-protocol';
import { useProject } from '../project-store';
import { rubsWorker } from './rubs-worker';

/** What is changed in quick succession is looked at once. */
const settleMs = 250;

const found = createStore<{ readonly rubs: readonly Rub[] }>(() => ({ rubs: [] }));

let worker: Worker | null = null,
  lastId = 0;
const waiting = new Map<number, (reply: RubsReply) => void>();

function ask(message: Omit<RubsMessage, 'id'>): Promise<RubsReply> {
  if (!worker) {
    worker = rubsWorker();
    worker.onmessage = ({ data }: MessageEvent<RubsReply>) => {
      waiting.get(data.id)?.(data);
      waiting.delete(data.id);
    };
  }
  const id = ++lastId;
  worker.postMessage({ ...message, id } satisfies RubsMessage);
  return new Promise((take) => waiting.set(id, take));
}

const sourcesOf = (loops: ReadonlyMap<number, WholeLoop>): ReadonlyMap<number, LoopSource> =>
  new Map([...loops].map(([id, { source }]) => [id, source]));

/** Keeps knowing where the notes of the project in the room rub; once in the page. */
export function useRubWatch(): void {
  const project = useProject((state) => state.preview ?? state.project),
    loops = useProject((state) => state.loops);
  useEffect(() => {
    if (!project) return void found.setState({ rubs: [] });
    let gone = false;
    const timer = setTimeout(
      () => void ask({ project, sources: sourcesOf(loops), mend: null }).then(({ rubs }) => gone || found.setState({ rubs })),
      settleMs,
    );
    return () => {
      gone = true;
      clearTimeout(timer);
    };
  }, [project, loops]);
}

/** Where notes of the project in the room rub. */
export const useRubs = (): readonly Rub[] => useStore(found, ({ rubs }) => rubs);

/** The one act that would mend a rub best; null where none helps. */
export const askMend = async (rub: Rub, project: Project, loops: ReadonlyMap<number, WholeLoop>): Promise<Mend | null> =>
  (await ask({ project, sources: sourcesOf(loops), mend: rub })).mend;
