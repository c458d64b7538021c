/** A new fitting worker. In a file of its own, since only the bundler understands this way of naming it. */
export const fitWorker = (): Worker => new Worker(new URL('../../workers/fit.worker.ts', import.meta.url), { type: 'module' });
