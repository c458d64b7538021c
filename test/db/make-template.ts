import { Client } from 'pg';
import { templateName } from './database';

// Laid once before the tests, by `npm test`: the services read their settings when they are first imported.
const serverUrl = process.env.TEST_DATABASE_URL as string,
  admin = new Client({ connectionString: serverUrl });
await admin.connect();
await admin.query(`drop database if exists ${templateName} with (force)`);
await admin.query(`create database ${templateName}`);
await admin.end();
process.env.DATABASE_URL = Object.assign(new URL(serverUrl), { pathname: `/${templateName}` }).toString();
const { migrate } = await import('../../server/db/migrate'),
  { sequelize } = await import('../../server/db/connection'),
  { runMigrations } = await import('graphile-worker');
await migrate();
await sequelize.close();
await runMigrations({ connectionString: process.env.DATABASE_URL });
