import { existsSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { startApplication } from './application.mjs';
import { hashOf } from './build.mjs';
import { run } from './run.mjs';

/** What the demo library is made by: where something in one of these has changed, it is made anew. */
const makers = ['demo', 'core', 'server'];

/**
 * Lays into `dataDir` the demo library as its installation leaves it, whatever an earlier run has done there. The library is made once in
 * `keptDir`, stopped, and copied from then on: a run begins where every other begins.
 */
export async function layFreshDemo({ dataDir, keptDir, port }) {
  const stamp = join(keptDir, 'made-by'),
    hash = hashOf(makers);
  if (!existsSync(stamp) || readFileSync(stamp, 'utf8') !== hash) {
    rmSync(keptDir, { recursive: true, force: true });
    const application = await startApplication({ port, dataDir: keptDir, outsideUrl: undefined, demo: true, quiet: true });
    await application.stop();
    writeFileSync(stamp, hash);
  }
  rmSync(dataDir, { recursive: true, force: true });
  // With owners and rights: the database insists on them.
  run('cp', ['-a', '--reflink=auto', keptDir, dataDir]);
}
