import { parentPort } from 'node:worker_threads';
import type { Progress } from './protocol';

/** Tells whoever waits for a task of a name how far it is. */
export const progressTeller =
  (name: string) =>
  (share: number): void =>
    parentPort?.postMessage({ progressOf: name, share } satisfies Progress);
