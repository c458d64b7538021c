import { run, type Runner, type TaskList } from 'graphile-worker';
import { config } from '../config.server';
import { selectRows, sequelize } from '../db/connection';
import { analyseImportFile, dropForgottenBatches, failImportFile, unpackBatch } from '../services/imports.server';
import { analyseAgain, tellBarsAnew, queueOutdatedLoops } from '../services/reanalysis.server';
import { exportProject, failExport } from '../services/exports.server';
import { sweepScratch } from './pool/pool.server';
import { queue, queueLogger, queuePool, type JobName, type JobPayloads } from './queue.server';

type Task<N extends JobName> = {
  readonly run: (payload: JobPayloads[N]) => Promise<void>;
  /** After the last attempt. */ readonly giveUp: (payload: JobPayloads[N]) => Promise<void>;
};

/** A row a job. All are safe to run twice. */
export const tasks: { readonly [N in JobName]: Task<N> } = {
  'unpack-import': {
    run: ({ batchId }) => unpackBatch(batchId),
    giveUp: async ({ batchId }) => {
      await sequelize.query(
        "update import_batches set state = 'failed', finished_at = now(), message = 'The import could not be unpacked.' where id = $1",
        { bind: [batchId] },
      );
    },
  },
  'analyse-import-file': { run: ({ fileId }) => analyseImportFile(fileId), giveUp: ({ fileId }) => failImportFile(fileId) },
  // Given up, a loop keeps its older analysis; the next start tries again.
  'analyse-again': { run: ({ loopId }) => analyseAgain(loopId), giveUp: async () => {} },
  // Given up, its bars are told as before.
  'tell-bars-anew': { run: ({ loopId }) => tellBarsAnew(loopId), giveUp: async () => {} },
  'export-project': { run: ({ exportId }) => exportProject(exportId), giveUp: ({ exportId }) => failExport(exportId) },
};

const heartbeatMs = 5_000,
  silentSeconds = 30,
  reapMs = 10_000;

function toTaskList(): TaskList {
  return Object.fromEntries(
    Object.entries(tasks).map(([name, task]) => [
      name,
      async (payload: unknown, helpers: { job: { attempts: number; max_attempts: number } }) => {
        try {
          await (task.run as (payload: unknown) => Promise<void>)(payload);
        } catch (error) {
          if (helpers.job.attempts >= helpers.job.max_attempts) {
            console.error(`${name} gave up:`, error);
            await (task.giveUp as (payload: unknown) => Promise<void>)(payload);
            return;
          }
          throw error;
        }
      },
    ]),
  );
}

/** Starts taking jobs. Several processes, on several machines, may do so. */
export async function startRunner(): Promise<{ stop: () => Promise<void> }> {
  await queue();
  const runner: Runner = await run({
    pgPool: queuePool(),
    taskList: toTaskList(),
    concurrency: config.poolThreads + 1,
    noHandleSignals: true,
    pollInterval: 2000,
    logger: queueLogger,
  });
  void queueOutdatedLoops().catch((error: unknown) => console.error('loops of an older analysis could not be queued:', error));
  const ids = new Set<string>();
  runner.events.on('worker:create', ({ worker }) => ids.add(worker.workerId));
  runner.events.on('worker:getJob:start', ({ worker }) => ids.add(worker.workerId));
  const beat = () =>
    sequelize
      .query(
        'insert into worker_heartbeats (worker_id, seen_at) select unnest($1::text[]), now() on conflict (worker_id) do update set seen_at = now()',
        { bind: [[...ids]] },
      )
      .catch(() => {});
  const timers = [
    setInterval(() => void beat(), heartbeatMs),
    setInterval(() => void reap().catch(() => {}), reapMs),
    setInterval(() => void dropForgottenBatches().catch(() => {}), 600_000),
    setInterval(() => void sweepScratch().catch(() => {}), 600_000),
  ];
  void reap().catch(() => {});
  return {
    stop: async () => {
      timers.forEach(clearInterval);
      await runner.stop();
      await sequelize.query('delete from worker_heartbeats where worker_id = any($1::text[])', { bind: [[...ids]] }).catch(() => {});
    },
  };
}

/**
 * Frees the jobs of workers that have fallen silent: killed processes cannot give their jobs back. A worker that holds a
 * job but never sent a sign of life counts from when it took the job.
 */
export async function reap(silent = silentSeconds): Promise<string[]> {
  const rows = await selectRows<{ id: string }>(
    `select distinct j.locked_by as id from graphile_worker._private_jobs j left join worker_heartbeats h on h.worker_id = j.locked_by
    where j.locked_by is not null and coalesce(h.seen_at, j.locked_at) < now() - make_interval(secs => $1) and j.locked_at < now() - make_interval(secs => $1)`,
    [silent],
  );
  const ids = rows.map((row) => row.id);
  if (ids.length) await (await queue()).forceUnlockWorkers(ids);
  await sequelize.query("delete from worker_heartbeats where seen_at < now() - interval '1 day'");
  return ids;
}
