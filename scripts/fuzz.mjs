// npm run fuzz -- [--files N] [--seed N]: see fuzz.ts.
import { runTypeScript } from './lib/application.mjs';
import { buildTool } from './lib/build.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { dataDir } from './lib/paths.mjs';

await main(async () => {
  checkNode();
  ensurePackages();
  await buildTool('build-tools/describe.worker.mjs', 'command/describe.worker.ts');
  runTypeScript('scripts/fuzz.ts', process.argv.slice(2), { GARNETFINCH_DATA: dataDir });
});
