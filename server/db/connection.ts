import { Pool } from 'pg';
import { Sequelize } from 'sequelize';
import { config } from '../config.server';
import { givenUp } from './wanted';

// One connection pool a process, also when a development server evaluates this module again.
const holder = globalThis as { garnetfinchSequelize?: Sequelize };

export const sequelize: Sequelize = (holder.garnetfinchSequelize ??= new Sequelize(config.databaseUrl || 'postgres://unset', {
  dialect: 'postgres',
  logging: false,
  pool: { max: 8, idle: 10_000 },
  dialectOptions: { statement_timeout: config.statementTimeoutMs },
  define: { underscored: true, timestamps: false },
}));

/**
 * Queries that nobody waits for are ended over connections apart: when all of the pool's hold such queries, none of those would come free for the
 * word that ends them.
 */
const enders = new Pool({ connectionString: config.databaseUrl, max: 2, idleTimeoutMillis: 5_000, allowExitOnIdle: true });
enders.on('error', () => {}); // a lost connection is opened anew by the next word

/** A connection as the driver has it. */
interface Driver {
  readonly processID: number;
  query(sql: string, values: unknown[]): Promise<{ rows: unknown[] }>;
}
interface Connections {
  getConnection(options: object): Promise<Driver>;
  releaseConnection(connection: Driver): Promise<void>;
}

/**
 * Rows of a hand-written query; `$1` … are bound. When nobody waits for them any more, see `whileWanted`, the query is ended.
 * @throws {DOMException} AbortError when it was given up
 */
export async function selectRows<T extends object>(sql: string, bind: readonly unknown[] = []): Promise<T[]> {
  const signal = givenUp();
  if (!signal) return (await sequelize.query(sql, { bind: [...bind] }))[0] as T[];
  signal.throwIfAborted();
  const { connectionManager } = sequelize as unknown as { connectionManager: Connections },
    connection = await connectionManager.getConnection({});
  let ending: Promise<unknown> = Promise.resolve();
  const end = () => (ending = enders.query('select pg_cancel_backend($1)', [connection.processID]).catch(() => {}));
  signal.addEventListener('abort', end, { once: true });
  try {
    signal.throwIfAborted();
    return (await connection.query(sql, [...bind])).rows as T[];
  } catch (error) {
    signal.throwIfAborted();
    throw error;
  } finally {
    signal.removeEventListener('abort', end);
    // Not given to another before the call to end it has been heard, which might end that one's query.
    await ending;
    await connectionManager.releaseConnection(connection);
  }
}
