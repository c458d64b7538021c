import { createStore } from 'zustand/vanilla';
import { sendFile, type Picked, type SendFile } from './upload';

export type TransferState = 'waiting' | 'sending' | 'paused' | 'failed';

/** What is on its way to the server as one import. */
export interface Transfer {
  readonly id: number;
  /** Null until the server has opened it. */
  readonly batchId: number | null;
  readonly packName: string;
  readonly files: number;
  readonly filesSent: number;
  readonly sentBytes: number;
  readonly totalBytes: number;
  readonly state: TransferState;
  readonly message: string | null;
  /** Over the last seconds; null while nothing can be said. */
  readonly bytesPerSecond: number | null;
}

/** @throws {Error} what is refused, in words */
export type Act = (fields: Record<string, string>) => Promise<{ batchId?: number }>;

interface Job {
  readonly draft: Readonly<Record<string, string>>;
  readonly picked: readonly Picked[];
  /** Paths that the server has already. */
  readonly there: Set<string>;
  readonly sentByFile: Map<string, number>;
  abort: AbortController | null;
  marks: { atMs: number; bytes: number }[];
}

const filesAtOnce = 3,
  rateOverMs = 8000;

/**
 * Imports on their way, one after the other, a few files of each at once. They belong to the tab and go on while one looks at other pages; held
 * or broken off they go on from where they were.
 */
export class Transfers {
  readonly store = createStore<{ readonly list: readonly Transfer[] }>(() => ({ list: [] }));
  private readonly jobs = new Map<number, Job>();
  private nextId = 1;
  private running: number | null = null;

  constructor(
    private readonly act: Act,
    private readonly onDone: () => void,
    private readonly send: SendFile = sendFile,
    private readonly nowMs: () => number = () => performance.now(),
  ) {}

  /** @param batchId of one that was begun before and is gone on with @param there paths that have arrived */
  add(
    draft: Readonly<Record<string, string>>,
    picked: readonly Picked[],
    batchId: number | null = null,
    there: readonly string[] = [],
  ): number {
    const id = this.nextId++,
      sentByFile = new Map(picked.filter(({ path }) => there.includes(path)).map(({ path, file }) => [path, file.size]));
    this.jobs.set(id, { draft, picked, there: new Set(there), sentByFile, abort: null, marks: [] });
    const totalBytes = picked.reduce((sum, { file }) => sum + file.size, 0);
    this.store.setState(({ list }) => ({
      list: [
        ...list,
        {
          id,
          batchId,
          packName: draft.packName ?? '',
          files: picked.length,
          filesSent: sentByFile.size,
          sentBytes: sum(sentByFile),
          totalBytes,
          state: 'waiting',
          message: null,
          bytesPerSecond: null,
        },
      ],
    }));
    void this.runNext();
    return id;
  }

  pause(id: number): void {
    this.change(id, { state: 'paused', bytesPerSecond: null });
    this.jobs.get(id)?.abort?.abort();
  }

  /** Goes on with one that was held, or that failed. */
  resume(id: number): void {
    this.change(id, { state: 'waiting', message: null });
    void this.runNext();
  }

  /** Ends one for good; the server keeps nothing of it. */
  async cancel(id: number): Promise<void> {
    const batchId = this.find(id)?.batchId ?? null;
    this.change(id, { state: 'paused' });
    this.jobs.get(id)?.abort?.abort();
    this.remove(id);
    if (batchId !== null) await this.act({ intent: 'drop', batchId: String(batchId) }).catch(() => {});
    void this.runNext();
  }

  private find(id: number): Transfer | undefined {
    return this.store.getState().list.find((each) => each.id === id);
  }
  private change(id: number, changes: Partial<Transfer>): void {
    this.store.setState(({ list }) => ({ list: list.map((each) => (each.id === id ? { ...each, ...changes } : each)) }));
  }
  private remove(id: number): void {
    this.jobs.delete(id);
    this.store.setState(({ list }) => ({ list: list.filter((each) => each.id !== id) }));
  }

  private async runNext(): Promise<void> {
    if (this.running !== null) return;
    const next = this.store.getState().list.find(({ state }) => state === 'waiting');
    if (!next) return;
    this.running = next.id;
    try {
      await this.run(next.id);
    } finally {
      this.running = null;
    }
    void this.runNext();
  }

  private async run(id: number): Promise<void> {
    const job = this.jobs.get(id);
    if (!job) return;
    job.abort = new AbortController();
    job.marks = [];
    this.change(id, { state: 'sending' });
    try {
      const batchId = this.find(id)?.batchId ?? (await this.open(id, job));
      await this.sendAll(id, batchId, job, job.abort.signal);
      await this.act({ intent: 'start', batchId: String(batchId) });
      this.remove(id);
      this.onDone();
    } catch (error) {
      if (this.find(id)?.state === 'sending')
        this.change(id, { state: 'failed', bytesPerSecond: null, message: error instanceof Error ? error.message : 'The upload failed.' });
    }
  }

  private async open(id: number, { draft }: Job): Promise<number> {
    const { batchId } = await this.act({ intent: 'open', ...draft });
    if (!batchId) throw new Error('The import could not be opened.');
    // Given up while it was being opened: there was nothing to be dropped then.
    if (!this.jobs.has(id)) await this.act({ intent: 'drop', batchId: String(batchId) }).catch(() => {});
    this.change(id, { batchId });
    return batchId;
  }

  private async sendAll(id: number, batchId: number, job: Job, signal: AbortSignal): Promise<void> {
    const waiting = job.picked.filter(({ path }) => !job.there.has(path));
    const work = async () => {
      for (let picked = waiting.shift(); picked; picked = waiting.shift()) {
        // What was held meanwhile is not told to a file that begins only now.
        signal.throwIfAborted();
        const { path, file } = picked;
        await this.send(batchId, picked, signal, (bytes) => this.note(id, job, path, bytes));
        job.there.add(path);
        this.note(id, job, path, file.size);
      }
    };
    const all = await Promise.allSettled(Array.from({ length: filesAtOnce }, work)),
      failed = all.find((each) => each.status === 'rejected');
    if (failed) throw failed.reason;
  }

  private note(id: number, job: Job, path: string, bytes: number): void {
    job.sentByFile.set(path, bytes);
    const sentBytes = sum(job.sentByFile),
      atMs = this.nowMs();
    job.marks = [...job.marks.filter((mark) => atMs - mark.atMs < rateOverMs), { atMs, bytes: sentBytes }];
    const [first] = job.marks,
      seconds = (atMs - first.atMs) / 1000;
    this.change(id, {
      sentBytes,
      filesSent: job.there.size,
      bytesPerSecond: seconds > 0.5 ? (sentBytes - first.bytes) / seconds : (this.find(id)?.bytesPerSecond ?? null),
    });
  }
}

const sum = (counts: ReadonlyMap<string, number>): number => [...counts.values()].reduce((total, each) => total + each, 0);

/** How long the rest takes, in words; '' while nothing can be said. @example leftInWords(90) // => 'about 2 minutes left' */
export function leftInWords(seconds: number | null): string {
  if (seconds === null || !Number.isFinite(seconds)) return '';
  if (seconds < 10) return 'a few seconds left';
  if (seconds < 60) return `about ${Math.ceil(seconds / 10) * 10} seconds left`;
  if (seconds < 3600) return `about ${Math.ceil(seconds / 60)} ${seconds <= 60 ? 'minute' : 'minutes'} left`;
  return `about ${(seconds / 3600).toFixed(1)} hours left`;
}
