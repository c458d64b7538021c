/** A worker that finds where notes rub. In a file of its own, since only the bundler understands this way of naming it. */
export const rubsWorker = (): Worker => new Worker(new URL('../../../workers/rubs.worker.ts', import.meta.url), { type: 'module' });
