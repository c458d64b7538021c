import { delimiter, join, resolve } from 'node:path';
import * as yup from 'yup';

/** Settings from the environment, read once and checked; the scripts set them. */
const settings = yup.object({
  DATABASE_URL: yup.string().default(''),
  GARNETFINCH_DATA: yup.string().default('.data'),
  GARNETFINCH_DEMO: yup.string().default('1'),
  GARNETFINCH_LISTEN: yup.string().default('127.0.0.1'),
  GARNETFINCH_TRUSTED_PROXY: yup.string().default(''),
  GARNETFINCH_PUBLIC_URL: yup
    .string()
    .url()
    .matches(/^https?:\/\//, { excludeEmptyString: true })
    .default(''),
  GARNETFINCH_EXCHANGE_URL: yup
    .string()
    .url()
    .matches(/^https?:\/\//, { excludeEmptyString: true })
    .default(''),
  GARNETFINCH_FOLDERS: yup.string().default(''),
  GARNETFINCH_STATEMENT_TIMEOUT_MS: yup.number().integer().min(0).default(0),
  GARNETFINCH_THREADS: yup.number().integer().min(1).max(64).default(2),
  GARNETFINCH_NICENESS: yup.number().integer().min(0).max(19).default(5),
  GARNETFINCH_LOG: yup.string().oneOf(['debug', 'info', 'warn', 'error']).default('info'),
});

/** @throws {Error} that names each setting that cannot be used */
export function readConfig(environment: Readonly<Record<string, string | undefined>>) {
  try {
    const read = settings.validateSync(environment, { abortEarly: false, stripUnknown: true });
    return {
      databaseUrl: read.DATABASE_URL,
      dataDir: resolve(read.GARNETFINCH_DATA),
      demo: read.GARNETFINCH_DEMO !== '0',
      /** Where the pages are listened for; another address than loopback lets other machines in. */
      listenAddress: read.GARNETFINCH_LISTEN,
      /** The proxy whose word on a client's address is taken: as Express's `trust proxy` has it (`loopback`, addresses, `1` for one hop); empty: nobody's. */
      trustedProxy: read.GARNETFINCH_TRUSTED_PROXY,
      /** The address people type, where a proxy stands in front. */
      publicUrl: read.GARNETFINCH_PUBLIC_URL ? new URL(read.GARNETFINCH_PUBLIC_URL) : null,
      /** Where the exchange outside is; empty: there is none. */
      exchangeUrl: read.GARNETFINCH_EXCHANGE_URL.replace(/\/$/, ''),
      /** Folders of this machine from which a keeper may import, parted by colons; without any, `inbox` in the data folder. */
      folderRoots: (read.GARNETFINCH_FOLDERS || join(resolve(read.GARNETFINCH_DATA), 'inbox'))
        .split(delimiter)
        .filter(Boolean)
        .map((root) => resolve(root)),
      /** After so long a query of the pages ends; 0: never. */
      statementTimeoutMs: read.GARNETFINCH_STATEMENT_TIMEOUT_MS,
      poolThreads: read.GARNETFINCH_THREADS,
      /** How far the job process steps back behind pages, sound and whatever else runs on the machine: 0 not at all, 19 as far as it can. */
      niceness: read.GARNETFINCH_NICENESS,
      logLevel: read.GARNETFINCH_LOG,
    } as const;
  } catch (error) {
    if (!(error instanceof yup.ValidationError)) throw error;
    throw new Error(`These settings cannot be used: ${error.errors.join('; ')}.`, { cause: error });
  }
}

export const config = readConfig(process.env);
