// npm run bench:audio -- […]: our stretching on loops with truth, next to Rubber Band and SoundTouch; options in bench/audio/run.ts.
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { at } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

await main(async () => {
  checkNode();
  ensurePackages();
  run(process.execPath, ['--import', 'tsx', at('bench/audio/run.ts'), ...process.argv.slice(2)]);
});
