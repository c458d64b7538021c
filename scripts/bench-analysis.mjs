// npm run bench:analysis -- [--set FOLDER]… [--count N]: our detector on sets with truth, next to aubio, bpm-tools and the rule of length.
import { buildTool } from './lib/build.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { at } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

await main(async () => {
  checkNode();
  ensurePackages();
  await buildTool('build-tools/describe.worker.mjs', 'command/describe.worker.ts');
  await buildTool('build-tools/analyze.mjs', 'command/analyze.ts');
  run(process.execPath, ['--import', 'tsx', at('training/bench.ts'), ...process.argv.slice(2)], { env: { INIT_CWD: process.cwd() } });
});
