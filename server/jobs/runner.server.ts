import { EventEmitter } from 'node:events';
import { run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker';
import { config } from '../config.server';
import { selectRows, sequelize } from '../db/connection';
import { beatSql, forgetHeartbeatsSql, forgetOldHeartbeatsSql, silentWorkersSql, spentJobsSql } from '../db/queries/runner';
import { log } from '../log.server';
import { sweepStore } from '../storage/keeping.server';
import { sweepScratch } from './pool/scratch-folder';
import { runChange, runUndo } from '../services/changes/changes.server';
import { forgetHeardOutside } from '../services/exchange/hear.server';
import { failTaking, fetchTaken } from '../services/exchange/take.server';
import { settleContext } from '../services/context.server';
import { lookIntoWatched } from '../services/folders/folders.server';
import { lookIntoFolder } from '../services/folders/look-into.server';
import { analyseImportFile, failImportFile } from '../services/imports/analyse-file.server';
import { dropForgottenBatches } from '../services/imports/receive.server';
import { closeImport, settleImport } from '../services/imports/settle.server';
import { sweepUploads } from '../services/imports/uploads.server';
import { failUnpacking, unpackBatch } from '../services/imports/unpack-batch.server';
import { analyseAgain, tellBarsAnew, queueOutdatedLoops } from '../services/reanalysis.server';
import { failDemo, renderDemo } from '../services/demo-mix.server';
import { tellPackAnew } from '../services/pack-page.server';
import { findTwins } from '../services/twins.server';
import { failMaking, makeLoop } from '../services/making/make.server';
import { exportProject, failExport } from '../services/exports.server';
import { queue, queueLogger, queuePool, type JobName, type JobPayloads } from './queue.server';

type Task<N extends JobName> = {
  readonly run: (payload: JobPayloads[N]) => Promise<void>;
  /** After the last attempt. */ readonly giveUp: (payload: JobPayloads[N]) => Promise<void>;
};

/** A row a job. All are safe to run twice. */
export const tasks: { readonly [N in JobName]: Task<N> } = {
  'unpack-import': {
    run: ({ batchId }) => unpackBatch(batchId),
    giveUp: ({ batchId }) => failUnpacking(batchId),
  },
  'analyse-import-file': { run: ({ fileId }) => analyseImportFile(fileId), giveUp: ({ fileId }) => failImportFile(fileId) },
  // Given up, a loop keeps its older analysis; the next start tries again.
  'analyse-again': { run: ({ loopId, whole }) => analyseAgain(loopId, whole), giveUp: async () => {} },
  // Given up, its bars are told as before.
  'tell-bars-anew': { run: ({ loopId }) => tellBarsAnew(loopId), giveUp: async () => {} },
  // Given up, what was done of it can still be taken back.
  'change-loops': { run: ({ changeId }) => runChange(changeId), giveUp: async () => {} },
  'undo-change': { run: ({ changeId }) => runUndo(changeId), giveUp: async () => {} },
  // Given up, its loops are found by its old name until it is changed again.
  'tell-pack-anew': { run: ({ packId }) => tellPackAnew(packId), giveUp: async () => {} },
  // Given up, the import is done all the same; its loops are seen together when something more comes into the pack.
  'settle-import': { run: ({ batchId }) => settleImport(batchId), giveUp: ({ batchId }) => closeImport(batchId) },
  // Given up, it is done when something more comes into the pack.
  'settle-pack': { run: ({ packId }) => settleContext(packId), giveUp: async () => {} },
  // Given up, it is looked into again with the next round.
  'look-into-folder': { run: ({ folderId }) => lookIntoFolder(folderId), giveUp: async () => {} },
  'render-demo': { run: ({ packId }) => renderDemo(packId), giveUp: ({ packId }) => failDemo(packId) },
  // Given up, they are found when something more comes into the pack.
  'find-twins': { run: ({ packId }) => findTwins(packId), giveUp: async () => {} },
  'take-outside': { run: fetchTaken, giveUp: failTaking },
  'make-loop': { run: ({ makingId }) => makeLoop(makingId), giveUp: ({ makingId }) => failMaking(makingId) },
  'export-project': { run: ({ exportId }) => exportProject(exportId), giveUp: ({ exportId }) => failExport(exportId) },
};

const heartbeatMs = 5_000,
  silentSeconds = 30,
  reapMs = 10_000,
  /** Folders that are watched are looked into so often: also what a network brings is noticed, of which no system tells. */
  lookMs = 20_000,
  /** What nobody has referred to for a day was left behind. */
  leftoverMs = 24 * 3_600_000;

function toTaskList(): TaskList {
  return Object.fromEntries(
    Object.entries(tasks).map(([name, task]) => [
      name,
      async (payload: unknown, helpers: { job: { attempts: number; max_attempts: number } }) => {
        try {
          await (task.run as (payload: unknown) => Promise<void>)(payload);
        } catch (error) {
          if (helpers.job.attempts >= helpers.job.max_attempts) {
            log.error(error, `${name} gave up`);
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
  const events: WorkerEvents = new EventEmitter(),
    ids = new Set<string>();
  // What locks a job is the pool; its workers' own names are in no row.
  events.on('pool:create', ({ workerPool }) => ids.add(workerPool.id));
  const runner: Runner = await run({
    pgPool: queuePool(),
    taskList: toTaskList(),
    concurrency: config.poolThreads + 1,
    noHandleSignals: true,
    pollInterval: 2000,
    logger: queueLogger,
    events,
  });
  void queueOutdatedLoops().catch((error: unknown) => log.error(error, 'loops of an older analysis could not be queued'));
  const beat = () => sequelize.query(beatSql, { bind: [[...ids]] }).catch(() => {});
  const timers = [
    setInterval(() => void beat(), heartbeatMs),
    setInterval(() => void reap().catch(() => {}), reapMs),
    setInterval(() => void forgetHeardOutside().catch(() => {}), 3_600_000),
    setInterval(() => void lookIntoWatched().catch(() => {}), lookMs),
    setInterval(() => void sweepUploads().catch(() => {}), 3_600_000),
    setInterval(() => void dropForgottenBatches().catch(() => {}), 600_000),
    setInterval(() => {
      const before = new Date(Date.now() - leftoverMs);
      void sweepStore(before).catch(() => {});
      void sweepScratch(before).catch(() => {});
    }, leftoverMs / 4),
  ];
  void beat();
  void reap().catch(() => {});
  return {
    stop: async () => {
      timers.forEach(clearInterval);
      await runner.stop();
      await sequelize.query(forgetHeartbeatsSql, { bind: [[...ids]] }).catch(() => {});
    },
  };
}

/** Jobs whose last attempt ended with its process are never taken again: what waits for them is told, and they are closed. */
async function giveUpSpent(): Promise<void> {
  const spent = await selectRows<{ id: string; name: JobName; payload: unknown }>(spentJobsSql, [Object.keys(tasks)]);
  for (const { id, name, payload } of spent) {
    await (tasks[name].giveUp as (payload: unknown) => Promise<void>)(payload);
    await (await queue()).completeJobs([id]);
  }
}

/**
 * Frees the jobs of workers that have fallen silent: killed processes cannot give their jobs back. A worker that holds a
 * job but never sent a sign of life counts from when it took the job.
 */
export async function reap(silent = silentSeconds): Promise<string[]> {
  const rows = await selectRows<{ id: string }>(silentWorkersSql, [silent]);
  const ids = rows.map((row) => row.id);
  if (ids.length) await (await queue()).forceUnlockWorkers(ids);
  await giveUpSpent();
  await sequelize.query(forgetOldHeartbeatsSql);
  return ids;
}
