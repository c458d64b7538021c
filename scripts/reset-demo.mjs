import { readdirSync, rmSync, existsSync } from 'node:fs';
import { join } from 'node:path';
import { main } from './lib/main.mjs';
import { takeLock } from './lib/lock.mjs';
import { dataDir, say, Stop } from './lib/paths.mjs';
import { removeCluster, stopDatabase } from './lib/postgres.mjs';

/** Throws the library of this data folder away, so that the next start makes the demo anew. */
await main(async () => {
  if (process.env.DATABASE_URL)
    throw new Stop('reset-demo does not empty an outside database. Unset DATABASE_URL, or drop its schemas by hand.');
  const release = takeLock(join(dataDir, 'start.lock'), () => 'Garnetfinch is running: stop it first (npm run stop).');
  stopDatabase();
  removeCluster();
  for (const entry of existsSync(dataDir) ? readdirSync(dataDir) : [])
    if (entry === 'files' || entry === 'incoming' || entry.startsWith('demo-'))
      rmSync(join(dataDir, entry), { recursive: true, force: true });
  release();
  say('The library is empty. `npm start` makes the demo library anew.');
});
