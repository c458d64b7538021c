import { join, resolve } from 'node:path';

/** Settings from the environment, read once; the scripts set them. */
export const config = {
  databaseUrl: process.env.DATABASE_URL ?? '',
  dataDir: resolve(process.env.GARNETFINCH_DATA ?? '.data'),
  demo: process.env.GARNETFINCH_DEMO !== '0',
  poolThreads: Number(process.env.GARNETFINCH_THREADS ?? 2),
} as const;

export const incomingDir = join(config.dataDir, 'incoming');
