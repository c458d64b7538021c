import { join } from 'node:path';
import { exchangeService } from './service';
import { Sounds } from './sounds';

/** The outside exchange in a process of its own, as `npm start` starts it: its port, and a folder for the sounds that it makes. */
const port = Number(process.env.EXCHANGE_PORT ?? 3080),
  folder = process.env.EXCHANGE_FOLDER ?? join('.data', 'exchange');

const server = exchangeService(new Sounds(folder)).listen(port, '127.0.0.1');
server.once('error', (error) => {
  process.stderr.write(`The exchange cannot listen on port ${port}: ${error.message}\n`);
  process.exit(1);
});
for (const signal of ['SIGTERM', 'SIGINT'] as const)
  process.once(signal, () => {
    server.close(() => process.exit(0));
    server.closeAllConnections();
  });
