import { startApplication } from './lib/application.mjs';
import { main } from './lib/main.mjs';

await main(() => startApplication({ dev: process.argv.includes('--dev'), stoppedCode: 0 }));
