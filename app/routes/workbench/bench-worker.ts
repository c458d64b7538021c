/** A worker of the bench's own. In a file of its own, since only the bundler understands this way of naming it. */
export const benchWorker = (): Worker => new Worker(new URL('../../../workers/bench.worker.ts', import.meta.url), { type: 'module' });
