import { join, resolve } from 'node:path';

/** Settings from the environment, read once; the scripts set them. */
export const config = {
  databaseUrl: process.env.DATABASE_URL ?? '',
  dataDir: resolve(process.env.GARNETFINCH_DATA ?? '.data'),
  demo: process.env.GARNETFINCH_DEMO !== '0',
  /** Where the pages are listened for; another address than loopback lets other machines in. */
  listenAddress: process.env.GARNETFINCH_LISTEN ?? '127.0.0.1',
  /** The proxy whose word on a client's address is taken: as Express's `trust proxy` has it (`loopback`, addresses, `1` for one hop); empty: nobody's. */
  trustedProxy: process.env.GARNETFINCH_TRUSTED_PROXY ?? '',
  /** The address people type, where a proxy stands in front. */
  publicUrl: process.env.GARNETFINCH_PUBLIC_URL ? new URL(process.env.GARNETFINCH_PUBLIC_URL) : null,
  /** After so long a query of the pages ends; 0: never. */
  statementTimeoutMs: Number(process.env.GARNETFINCH_STATEMENT_TIMEOUT_MS ?? 0),
  poolThreads: Number(process.env.GARNETFINCH_THREADS ?? 2),
} as const;

export const incomingDir = join(config.dataDir, 'incoming');
