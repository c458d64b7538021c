import { existsSync } from 'node:fs';
import { mkdir, readdir, rm, stat } from 'node:fs/promises';
import { join, resolve } from 'node:path';
import { Piscina } from 'piscina';
import { config } from '../../config.server';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult, RenewRequest, RenewResult } from './protocol';

let pool: Piscina | null = null;

function workerFile(): string {
  const file = [resolve('build/pool/analyse.worker.mjs'), join(process.cwd(), 'build/pool/analyse.worker.mjs')].find(existsSync);
  if (!file) throw new Error('The CPU worker is not built: run `npm run build`.');
  return file;
}

function openPool(): Piscina {
  return (pool ??= new Piscina({ filename: workerFile(), minThreads: 1, maxThreads: config.poolThreads, idleTimeout: 30_000 }));
}

const scratchDir = join(config.dataDir, 'scratch');

/** Decodes and analyses one stored file off the main thread. A long sound comes back as a file, which the caller takes away. */
export async function analyseInPool(request: Pick<AnalyseRequest, 'filePath' | 'vendorPath'>): Promise<AnalyseResult> {
  await mkdir(scratchDir, { recursive: true });
  return openPool().run({ task: 'analyse', scratchDir, ...request } satisfies AnalyseRequest);
}

/** Hears parts of a stored file again. */
export const renewInPool = (request: Omit<RenewRequest, 'task'>): Promise<RenewResult> =>
  openPool().run({ task: 'renew', ...request } satisfies RenewRequest);

/** Removes what workers that were killed have left behind: sounds that nobody fetched for an hour. */
export async function sweepScratch(): Promise<void> {
  for (const name of existsSync(scratchDir) ? await readdir(scratchDir) : []) {
    const file = join(scratchDir, name);
    if ((await stat(file)).mtimeMs < Date.now() - 3_600_000) await rm(file, { force: true });
  }
}

/** Renders a project's mixdown off the main thread. */
export const exportInPool = (request: Omit<ExportRequest, 'task'>): Promise<ExportResult> => openPool().run({ task: 'export', ...request });

export async function closePool(): Promise<void> {
  await pool?.destroy();
  pool = null;
}
