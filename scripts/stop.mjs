import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { main } from './lib/main.mjs';
import { dataDir, say } from './lib/paths.mjs';
import { stopDatabase } from './lib/postgres.mjs';
import { isAlive } from './lib/run.mjs';

await main(async () => {
  const lock = join(dataDir, 'start.lock');
  const owner = existsSync(lock) ? Number(readFileSync(lock, 'utf8')) : 0;
  if (owner && isAlive(owner)) {
    process.kill(owner, 'SIGTERM');
    for (let waitedMs = 0; isAlive(owner) && waitedMs < 20_000; waitedMs += 100) await new Promise((next) => setTimeout(next, 100));
  }
  stopDatabase();
  say('Garnetfinch is stopped.');
});
