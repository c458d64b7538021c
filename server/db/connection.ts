import { Sequelize } from 'sequelize';
import { config } from '../config.server';

// One connection pool a process, also when a development server evaluates this module again.
const holder = globalThis as { garnetfinchSequelize?: Sequelize };

export const sequelize: Sequelize = (holder.garnetfinchSequelize ??= new Sequelize(config.databaseUrl || 'postgres://unset', {
  dialect: 'postgres',
  logging: false,
  pool: { max: 8, idle: 10_000 },
  dialectOptions: { statement_timeout: config.statementTimeoutMs },
  define: { underscored: true, timestamps: false },
}));

/** Rows of a hand-written query; `$1` … are bound. */
export async function selectRows<T extends object>(sql: string, bind: readonly unknown[] = []): Promise<T[]> {
  const [rows] = await sequelize.query(sql, { bind: [...bind] });
  return rows as T[];
}
