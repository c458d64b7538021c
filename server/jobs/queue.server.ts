import { Pool } from 'pg';
import { Logger, makeWorkerUtils, type WorkerUtils } from 'graphile-worker';
import type { Transaction } from 'sequelize';
import { config } from '../config.server';
import { log } from '../log.server';
import { sequelize } from '../db/connection';
import { addJobsSql } from '../db/queries/queue';

/** Loops of an exchange outside, or with null a whole pack, into a batch that waits for them. */
export interface TakePayload {
  readonly batchId: number;
  readonly source: string;
  readonly personId: number;
  readonly packId: string;
  readonly loopIds: readonly string[] | null;
}

/** The jobs there are and what each is given. */
export interface JobPayloads {
  'unpack-import': { readonly batchId: number };
  'analyse-import-file': { readonly fileId: string };
  /** `whole`: also what the analyser has not changed since. */
  'analyse-again': { readonly loopId: number; readonly whole?: boolean };
  'tell-bars-anew': { readonly loopId: number };
  'export-project': { readonly exportId: number };
  'make-loop': { readonly makingId: number };
  'take-outside': TakePayload;
  'settle-import': { readonly batchId: number };
  'settle-pack': { readonly packId: number };
  'look-into-folder': { readonly folderId: number };
  'tell-pack-anew': { readonly packId: number };
  'render-demo': { readonly packId: number };
  'find-twins': { readonly packId: number };
  'change-loops': { readonly changeId: number };
  'undo-change': { readonly changeId: number };
}
export type JobName = keyof JobPayloads;

/** Lower is sooner: a mixdown somebody waits for goes before a thousand files; nobody waits for what is heard again in the background. */
const priorities: Partial<Readonly<Record<JobName, number>>> = {
  'export-project': -10,
  'make-loop': -10,
  'render-demo': -9,
  'unpack-import': -5,
  'take-outside': -5,
  'change-loops': -8,
  'undo-change': -8,
  'analyse-again': 10,
  'find-twins': 5,
  'tell-pack-anew': -8,
  'settle-import': -8,
  'settle-pack': -8,
};

const holder = globalThis as { garnetfinchQueue?: Promise<WorkerUtils>; garnetfinchQueuePool?: Pool };

/** Only what a person must know reaches the console. */
export const queueLogger = new Logger(() => (level, message) => {
  if (level === 'error' || level === 'warning') log.error(message);
});

function openQueuePool(): Pool {
  const pool = new Pool({ connectionString: config.databaseUrl, max: 6 });
  pool.on('error', () => {}); // a lost connection is opened anew by the next query
  pool.on('connect', (client) => client.on('error', () => {}));
  return pool;
}

/** The pool that job queries use, apart from the models' own. */
export const queuePool = (): Pool => (holder.garnetfinchQueuePool ??= openQueuePool());

export function queue(): Promise<WorkerUtils> {
  return (holder.garnetfinchQueue ??= makeWorkerUtils({ pgPool: queuePool(), logger: queueLogger }).then(async (utils) => {
    await utils.migrate();
    return utils;
  }));
}

export const mostAttempts = 4;

/** Puts a job into the queue; with the same `key` twice, once. With a transaction it is there if and when that is kept. */
export const addJob = <N extends JobName>(name: N, payload: JobPayloads[N], key: string, transaction?: Transaction): Promise<void> =>
  addJobs(name, [{ payload, key }], transaction);

/** The same for jobs of which one of a key must not begin before another has ended. */
export const addJobInLine = <N extends JobName>(name: N, payload: JobPayloads[N], key: string, transaction?: Transaction): Promise<void> =>
  addJobs(name, [{ payload, key, queue: key }], transaction);

/** Many jobs of a kind at once. */
export async function addJobs<N extends JobName>(
  name: N,
  jobs: readonly { readonly payload: JobPayloads[N]; readonly key: string; readonly queue?: string }[],
  transaction?: Transaction,
  priority = priorities[name] ?? 0,
): Promise<void> {
  await queue();
  for (let at = 0; at < jobs.length; at += 500)
    await sequelize.query(addJobsSql, { bind: [name, JSON.stringify(jobs.slice(at, at + 500)), mostAttempts, priority], transaction });
}

export async function closeQueue(): Promise<void> {
  await (await holder.garnetfinchQueue)?.release();
  await holder.garnetfinchQueuePool?.end();
  holder.garnetfinchQueue = undefined;
  holder.garnetfinchQueuePool = undefined;
}
