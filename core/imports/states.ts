/** Where an import stands as a whole. */
export const batchStates = ['receiving', 'queued', 'unpacking', 'analysing', 'paused', 'done', 'cancelled', 'failed'] as const;
export type BatchState = (typeof batchStates)[number];

/** Where one of its files stands. */
export const fileStates = ['queued', 'working', 'done', 'kept', 'failed', 'duplicate', 'left-aside'] as const;
export type FileState = (typeof fileStates)[number];

/** Who may cause an event: who brings the files in, a keeper, the job that works on it. */
export type Cause = 'owner' | 'keeper' | 'job';

export interface Transition<State> {
  readonly from: readonly State[];
  readonly to: State;
  readonly by: readonly Cause[];
}

/** What happens to a batch. A job that was killed takes its batch up again, so an event may find the state that it leads to. */
export const batchTransitions = {
  /** All files are there. */
  start: { from: ['receiving'], to: 'queued', by: ['owner'] },
  unpack: { from: ['queued', 'unpacking'], to: 'unpacking', by: ['job'] },
  /** Every archive is open, every file has its job. */
  analyse: { from: ['unpacking'], to: 'analysing', by: ['job'] },
  /** No file waits any more. */
  finish: { from: ['analysing', 'paused'], to: 'done', by: ['job'] },
  /** There is no room, or the archives cannot be opened at any try. */
  fail: { from: ['queued', 'unpacking'], to: 'failed', by: ['job'] },
  retry: { from: ['failed'], to: 'queued', by: ['owner', 'keeper'] },
  /** What is being heard, or unpacked, comes to its end; what waits, waits. */
  pause: { from: ['queued', 'unpacking', 'analysing'], to: 'paused', by: ['owner', 'keeper'] },
  /** As at the beginning: what is still packed is unpacked, what waits gets its job. */
  resume: { from: ['paused'], to: 'queued', by: ['owner', 'keeper'] },
  stop: { from: ['queued', 'unpacking', 'analysing', 'paused'], to: 'cancelled', by: ['owner', 'keeper'] },
} as const satisfies Readonly<Record<string, Transition<BatchState>>>;
export type BatchEvent = keyof typeof batchTransitions;

/** What happens to a file. */
export const fileTransitions = {
  work: { from: ['queued', 'working'], to: 'working', by: ['job'] },
  /** Its job found the batch held. */
  wait: { from: ['working'], to: 'queued', by: ['job'] },
  /** It is a loop of the library now, or an archive that has been unpacked. */
  finish: { from: ['working'], to: 'done', by: ['job'] },
  /** It is no sound, and stays with the pack: a text, a picture. */
  keep: { from: ['queued'], to: 'kept', by: ['job'] },
  /** The library has its bytes already. */
  know: { from: ['queued', 'working'], to: 'duplicate', by: ['job'] },
  fail: { from: ['queued', 'working'], to: 'failed', by: ['job'] },
  /** The file whose bytes it shares has failed. */
  failWithTwin: { from: ['duplicate'], to: 'failed', by: ['job'] },
  leave: { from: ['queued', 'working'], to: 'left-aside', by: ['owner', 'keeper', 'job'] },
} as const satisfies Readonly<Record<string, Transition<FileState>>>;
export type FileEvent = keyof typeof fileTransitions;

/** States in which a batch stays by itself. */
export const settledBatchStates = batchStates.filter((state) =>
  Object.values(batchTransitions).every(
    ({ from, by }) => !(from as readonly BatchState[]).includes(state) || !(by as readonly Cause[]).includes('job'),
  ),
);

/** States of files on which something is still to be done. */
export const waitingFileStates: readonly FileState[] = fileTransitions.work.from;

/** Where an event leads from a state; null when it does not happen there. @example nextBatchState('start', 'done') // => null */
export function nextBatchState(event: BatchEvent, state: BatchState): BatchState | null {
  const { from, to }: Transition<BatchState> = batchTransitions[event];
  return from.includes(state) ? to : null;
}
