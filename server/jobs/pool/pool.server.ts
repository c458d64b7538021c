import { existsSync } from 'node:fs';
import { join, resolve } from 'node:path';
import { Piscina } from 'piscina';
import { config } from '../../config.server';
import type { AnalyseRequest, AnalyseResult, ExportRequest, ExportResult } from './protocol';

let pool: Piscina | null = null;

function workerFile(): string {
  const file = [resolve('build/pool/analyse.worker.mjs'), join(process.cwd(), 'build/pool/analyse.worker.mjs')].find(existsSync);
  if (!file) throw new Error('The CPU worker is not built: run `npm run build`.');
  return file;
}

function openPool(): Piscina {
  return (pool ??= new Piscina({ filename: workerFile(), minThreads: 1, maxThreads: config.poolThreads, idleTimeout: 30_000 }));
}

/** Decodes and analyses one stored file off the main thread. */
export const analyseInPool = (request: Omit<AnalyseRequest, 'task'>): Promise<AnalyseResult> =>
  openPool().run({ task: 'analyse', ...request });

/** Renders a project's mixdown off the main thread. */
export const exportInPool = (request: Omit<ExportRequest, 'task'>): Promise<ExportResult> => openPool().run({ task: 'export', ...request });

export async function closePool(): Promise<void> {
  await pool?.destroy();
  pool = null;
}
