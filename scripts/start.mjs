import { startApplication } from './lib/application.mjs';
import { main } from './lib/main.mjs';

await main(async () => {
  const application = await startApplication({ dev: process.argv.includes('--dev') });
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    process.stdout.write('\nStopping …\n');
    await application.stop();
    process.exit(0);
  };
  process.on('SIGINT', stop);
  process.on('SIGTERM', stop);
  process.on('SIGHUP', stop);
  for (const child of application.children)
    child.once('exit', (code) => {
      if (!stopping) {
        process.stderr.write(`A part of Garnetfinch ended (exit ${code}).\n`);
        process.exitCode = 1;
        void stop();
      }
    });
});
