// node scripts/run-ts.mjs [--no-database] FILE ARGS…: sets up, starts the database, runs a TypeScript file of ours.
import { runTypeScript } from './lib/application.mjs';
import { buildPoolWorkers } from './lib/build.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { dataDir } from './lib/paths.mjs';
import { startDatabase } from './lib/postgres.mjs';

await main(async () => {
  checkNode();
  ensurePackages();
  await buildPoolWorkers();
  const [file, ...args] = process.argv.slice(2).filter((arg) => arg !== '--no-database');
  const database = process.argv.includes('--no-database') ? null : await startDatabase();
  try {
    runTypeScript(file, args, { GARNETFINCH_DATA: dataDir, ...(database ? { DATABASE_URL: database.url } : {}) });
  } finally {
    database?.stop();
  }
});
