import { existsSync } from 'node:fs';
import { resolve } from 'node:path';
import { Worker } from 'node:worker_threads';
import type { Answer, Question } from '~core/search/index/finder';
import { ownInstruments } from '~core/theory/instruments';
import { config } from '../config.server';
import { log } from '../log.server';
import type { FromFinder, ToFinder } from './protocol';

interface Waiting {
  readonly resolve: (answer: Answer) => void;
  readonly reject: (error: Error) => void;
}

/** Where the index of this process stands. */
export type FinderState =
  | { readonly kind: 'off' }
  | { readonly kind: 'reading'; readonly loops: number }
  | { readonly kind: 'ready'; readonly loops: number; readonly ms: number; readonly bytes: number };

/** One index a process, also when a development server evaluates this module again. */
const holder = globalThis as { garnetfinchFinder?: FinderClient },
  workerFile = 'build/pool/finder.worker.mjs',
  againAfterMs = 2000;

class FinderClient {
  state: FinderState = { kind: 'off' };
  private worker: Worker | null = null;
  private turn = 0;
  private readonly waiting = new Map<number, Waiting>();
  private isWanted = true;

  open(): void {
    if (!existsSync(resolve(workerFile)) || !config.databaseUrl) return;
    const worker = (this.worker = new Worker(resolve(workerFile), { workerData: { databaseUrl: config.databaseUrl } }));
    worker.unref();
    this.state = { kind: 'reading', loops: 0 };
    this.tell({ kind: 'instruments', own: ownInstruments() });
    worker.on('message', (message: FromFinder) => this.hear(message));
    worker.on('error', (error) => log.error(error));
    worker.on('exit', () => {
      this.state = { kind: 'off' };
      this.worker = null;
      for (const { reject } of this.waiting.values()) reject(new Error('the index ended'));
      this.waiting.clear();
      if (this.isWanted) setTimeout(() => this.isWanted && this.open(), againAfterMs).unref();
    });
  }

  private hear(message: FromFinder): void {
    if (message.kind === 'reading' || message.kind === 'ready') {
      this.state = message;
      if (message.kind === 'ready') log.info(`The index holds ${message.loops} loops, read in ${Math.round(message.ms)} ms.`);
      return;
    }
    const waiting = this.waiting.get(message.turn);
    this.waiting.delete(message.turn);
    if (message.kind === 'answer') waiting?.resolve(message.answer);
    else waiting?.reject(new Error(message.message));
  }

  tell(message: ToFinder): void {
    this.worker?.postMessage(message);
  }

  ask(question: Question): Promise<Answer> {
    return new Promise((resolve, reject) => {
      const turn = ++this.turn;
      this.waiting.set(turn, { resolve, reject });
      this.tell({ kind: 'ask', turn, question });
    });
  }

  async close(): Promise<void> {
    this.isWanted = false;
    await this.worker?.terminate();
  }
}

/** Begins to read the library into memory; until it is there, the database answers. */
export function openFinder(): void {
  if (holder.garnetfinchFinder) return;
  holder.garnetfinchFinder = new FinderClient();
  holder.garnetfinchFinder.open();
}

/** Ends it, with the process. */
export const closeFinder = async (): Promise<void> => {
  await holder.garnetfinchFinder?.close();
  holder.garnetfinchFinder = undefined;
};

export const finderState = (): FinderState => holder.garnetfinchFinder?.state ?? { kind: 'off' };

/** Tells the index which instruments a group has of its own. */
export const tellFinderInstruments = (): void => holder.garnetfinchFinder?.tell({ kind: 'instruments', own: ownInstruments() });

/** What the index finds; null where the database has to be asked instead: it is still being read, or it failed. */
export async function askFinder(question: Question): Promise<Answer | null> {
  const finder = holder.garnetfinchFinder;
  if (finder?.state.kind !== 'ready') return null;
  try {
    return await finder.ask(question);
  } catch (error) {
    log.error(error);
    return null;
  }
}
