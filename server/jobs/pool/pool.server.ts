import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Piscina } from 'piscina';
import { ownInstruments } from '~core/theory/instruments';
import { config } from '../../config.server';
import type {
  AnalyseRequest,
  AnalyseResult,
  ExportRequest,
  ExportResult,
  MakeRequest,
  MakeResult,
  PoolRequest,
  Progress,
  RenewRequest,
  RenewResult,
  StemsRequest,
  StemsResult,
} from './protocol';
import { withScratchFolder } from './scratch-folder';

let pool: Piscina | null = null;

function workerFile(): string {
  const file = [resolve('build/pool/analyse.worker.mjs'), join(process.cwd(), 'build/pool/analyse.worker.mjs')].find(existsSync);
  if (!file) throw new Error('The CPU worker is not built: run `npm run build`.');
  return file;
}

function openPool(): Piscina {
  return (pool ??= new Piscina({
    filename: workerFile(),
    minThreads: 1,
    maxThreads: config.poolThreads,
    idleTimeout: 30_000,
    // The threads ask the same store for files.
    env: { ...process.env, GARNETFINCH_DATA: config.dataDir },
    resourceLimits: { maxOldGenerationSizeMb: 768 },
  }).on('message', ({ progressOf, share }: Progress) => progressHearers.get(progressOf)?.(share)));
}

/** Who hears how far a task of a name is. */
const progressHearers = new Map<string, (share: number) => void>();

/** A task whose thread was ended: somebody stopped it, or it took too long. */
export class TaskEnded extends Error {
  constructor(readonly reason: 'cancelled' | 'too-long') {
    super(reason === 'cancelled' ? 'the task was stopped' : 'the task took too long');
  }
}

/** Tasks that are under way, by the name under which they can be ended. */
const running = new Map<string, Set<AbortController>>();

/** Ends the threads that work under a name in this process; other processes find out before they write. */
export function cancelTasks(name: string): void {
  for (const controller of running.get(name) ?? []) controller.abort(new TaskEnded('cancelled'));
}

/** A long piece takes its time: ten minutes more. */
const mostExportBytes = 400 * 2 ** 20;

/** A task may take so long, waiting for a thread included, and longer for more bytes: an hour of sound is heard in a few minutes. */
const limitMs = 180_000,
  limitMsPerMb = 1_500;

interface TaskOptions {
  readonly name: string;
  readonly bytes: number;
}

async function runEndable<T>(request: PoolRequest, { name, bytes }: TaskOptions): Promise<T> {
  const controller = new AbortController(),
    limit = setTimeout(() => controller.abort(new TaskEnded('too-long')), limitMs + limitMsPerMb * (bytes / 2 ** 20)),
    siblings = running.get(name) ?? new Set();
  running.set(name, siblings.add(controller));
  try {
    return await withScratchFolder(
      async (scratchFolder) => (await openPool().run({ ...request, scratchFolder }, { signal: controller.signal })) as T,
    );
  } catch (error) {
    throw controller.signal.aborted ? controller.signal.reason : error;
  } finally {
    clearTimeout(limit);
    siblings.delete(controller);
    if (siblings.size === 0) running.delete(name);
  }
}

/** Decodes and analyses one stored file off the main thread. A long sound comes back staged in the store. @throws {TaskEnded} */
export const analyseInPool = (request: Omit<AnalyseRequest, 'task' | 'ownInstruments'>, options: TaskOptions): Promise<AnalyseResult> =>
  runEndable({ task: 'analyse', ownInstruments: ownInstruments(), ...request }, options);

/** Hears parts of a stored file again. @throws {TaskEnded} */
export const renewInPool = (request: Omit<RenewRequest, 'task' | 'ownInstruments'>, bytes = 0): Promise<RenewResult> =>
  runEndable({ task: 'renew', ownInstruments: ownInstruments(), ...request }, { name: 'renew', bytes });

async function runTold<T>(request: ExportRequest | StemsRequest, bytes: number, onProgress?: (share: number) => void): Promise<T> {
  const { name } = request;
  if (onProgress) progressHearers.set(name, onProgress);
  try {
    return await runEndable<T>(request, { name, bytes });
  } finally {
    progressHearers.delete(name);
  }
}

/** Renders a project's mixdown off the main thread. @throws {TaskEnded} */
export const exportInPool = (request: Omit<ExportRequest, 'task'>, onProgress?: (share: number) => void): Promise<ExportResult> =>
  runTold({ task: 'export', ...request }, mostExportBytes, onProgress);

/** Renders a project's mixdown and stems off the main thread, into an archive that is staged in the store. @throws {TaskEnded} */
export const stemsInPool = (request: Omit<StemsRequest, 'task'>, onProgress?: (share: number) => void): Promise<StemsResult> =>
  runTold({ task: 'stems', ...request }, 2 * mostExportBytes, onProgress);

/** Makes a loop off the main thread. */
export const makeInPool = (request: MakeRequest): Promise<MakeResult> => runEndable(request, { name: 'make', bytes: mostExportBytes });

export async function closePool(): Promise<void> {
  await pool?.destroy();
  pool = null;
}
