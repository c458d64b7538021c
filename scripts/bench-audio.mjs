// npm run bench:audio -- [--live [ADDRESS] [--minutes N]] […]: our stretching on loops with truth, next to Rubber Band and SoundTouch (options in
// bench/audio/run.ts); with --live the engine of a running application, heard by a tap on its audio thread.
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { at } from './lib/paths.mjs';
import { run } from './lib/run.mjs';

await main(async () => {
  checkNode();
  ensurePackages();
  const live = process.argv.indexOf('--live');
  if (live >= 0) {
    const { benchLive } = await import('../bench/audio/live.mjs');
    const address = process.argv[live + 1]?.startsWith('http') ? process.argv[live + 1] : `http://127.0.0.1:${process.env.PORT ?? 3000}`,
      minutes = process.argv.indexOf('--minutes');
    return benchLive(address, minutes < 0 ? 1 : Number(process.argv[minutes + 1]));
  }
  run(process.execPath, ['--import', 'tsx', at('bench/audio/run.ts'), ...process.argv.slice(2)]);
});
