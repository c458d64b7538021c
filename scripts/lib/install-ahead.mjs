import { main } from './main.mjs';
import { ensureChromium } from './packages.mjs';
import { ensurePostgres } from './postgres.mjs';

/** Run as a program of its own while npm's packages come in, which leaves the processor idle: what the tests need of Debian. */
await main(() => {
  ensurePostgres();
  ensureChromium();
});
