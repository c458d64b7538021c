import { setPriority } from 'node:os';
import { config } from '../config.server';
import { migrate } from '../db/migrate';
import { learnInstruments } from '../services/instruments.server';
import { closePool } from './pool/pool.server';
import { startRunner } from './runner.server';

/** The process that works the queue. Who searches and listens meanwhile goes first: its threads take what is left of the machine. */
export async function runJobs(): Promise<void> {
  // Threads that are begun after this take it over.
  setPriority(config.niceness);
  await migrate();
  await learnInstruments();
  const runner = await startRunner();
  const stop = async () => {
    await runner.stop();
    await closePool();
    process.exit(0);
  };
  process.once('SIGTERM', () => void stop());
  process.once('SIGINT', () => void stop());
}

if (process.argv[1]?.endsWith('server/jobs/main.ts')) void runJobs();
