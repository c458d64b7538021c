import { randomBytes } from 'node:crypto';
import { mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { Client } from 'pg';

/** A database with all tables and no rows, of which each file of tests gets a copy: to lay the tables takes longer than most tests. */
export const templateName = 'garnetfinch_template';

/**
 * Makes an empty database on the test server and points the services at it and at a data folder of its own. Call it before
 * the services are first imported: they read their settings once.
 */
export async function freshDatabase(): Promise<() => Promise<void>> {
  const server = process.env.TEST_DATABASE_URL;
  if (!server) throw new Error('These tests need a PostgreSQL server: run them with `npm test`, or set TEST_DATABASE_URL.');
  const name = `test_${randomBytes(6).toString('hex')}`,
    admin = new Client({ connectionString: server });
  await admin.connect();
  const { rowCount } = await admin.query('select 1 from pg_database where datname = $1', [templateName]);
  await admin.query(`create database ${name} ${rowCount ? `template ${templateName}` : ''}`);
  process.env.DATABASE_URL = Object.assign(new URL(server), { pathname: `/${name}` }).toString();
  const dataDir = mkdtempSync(join(tmpdir(), 'garnetfinch-test-'));
  process.env.GARNETFINCH_DATA = dataDir;
  const { migrate } = await import('~server/db/migrate');
  await migrate();
  return async () => {
    const { closeQueue } = await import('~server/jobs/queue.server'),
      { closePool } = await import('~server/jobs/pool/pool.server'),
      { sequelize } = await import('~server/db/connection');
    await closePool();
    await closeQueue();
    await sequelize.close();
    await admin.query(`drop database ${name} with (force)`);
    await admin.end();
    rmSync(dataDir, { recursive: true, force: true, maxRetries: 3 });
  };
}
