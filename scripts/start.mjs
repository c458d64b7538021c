import { startApplication } from './lib/application.mjs';
import { main } from './lib/main.mjs';

await main(async () => {
  let stopAll = async () => {};
  let stopping = false;
  const stop = async (exitCode) => {
    if (stopping) return;
    stopping = true;
    process.stdout.write('\nStopping …\n');
    await stopAll();
    process.exit(exitCode);
  };
  // Before the start, since the first one takes minutes: Ctrl-C must stop the database then, too.
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
  await startApplication({
    dev: process.argv.includes('--dev'),
    onStoppable: (stopSoFar) => {
      stopAll = stopSoFar;
    },
  });
});
