import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildPoolWorkers, ensureBuild } from './build.mjs';
import { takeLock } from './lock.mjs';
import { checkNode, ensurePackages } from './packages.mjs';
import { at, dataDir as defaultDataDir, say, sha256, Stop } from './paths.mjs';
import { startDatabase } from './postgres.mjs';
import { endChild, run, startChild } from './run.mjs';
import { stopWithProcess } from './stop-with-process.mjs';

const seconds = (fromMs) => ((Date.now() - fromMs) / 1000).toFixed(1);

/** Waits until the page itself answers: a health check beside it would stay green over a broken bundle. */
async function waitForPage(address, children, timeoutMs = 90_000) {
  const deadline = Date.now() + timeoutMs;
  while (Date.now() < deadline) {
    if (children.some((child) => child.exitCode !== null)) throw new Stop('The application ended while starting; its messages are above.');
    try {
      const response = await fetch(`${address}/sign-in`);
      if (response.ok) return;
    } catch {
      /* not listening yet */
    }
    await new Promise((next) => setTimeout(next, 100));
  }
  throw new Stop(`The application did not answer at ${address} within ${timeoutMs / 1000} s.`);
}

/** Runs a TypeScript file of ours with tsx. */
export function runTypeScript(file, args = [], env = {}) {
  return run(process.execPath, ['--import', 'tsx', at(file), ...args], { env });
}

/**
 * Everything from a bare checkout to an answering application. Returns `{ address, stop, … }`; `endedParts` tells how many parts have died so far.
 * `demo`: make the demo library on the first start. Told to end, this process stops all there is so far and ends with `stoppedCode`.
 */
export async function startApplication({
  port = Number(process.env.PORT ?? 3000),
  dataDir = defaultDataDir,
  outsideUrl = process.env.DATABASE_URL,
  demo = process.env.GARNETFINCH_DEMO !== '0',
  dev = false,
  env = {},
  quiet = false,
  stoppedCode = 1,
} = {}) {
  const began = Date.now();
  const note = quiet ? () => {} : say;
  checkNode();
  const runFile = join(dataDir, 'run.json');
  const release = takeLock(join(dataDir, 'start.lock'), (owner) => {
    const running = existsSync(runFile) ? JSON.parse(readFileSync(runFile, 'utf8')).address : null;
    return running
      ? `Garnetfinch is already running at ${running} (process ${owner}).`
      : `Garnetfinch is already being started by process ${owner}.`;
  });
  const children = [];
  let endedParts = 0;
  let database = null;
  let stopping = false;
  const stop = async () => {
    stopping = true;
    takeOff();
    await Promise.all(children.map((child) => endChild(child)));
    database?.stop();
    rmSync(runFile, { force: true });
    release();
  };
  // Before the start, since the first one takes minutes: Ctrl-C must stop the database then, too.
  const takeOff = stopWithProcess(stop, stoppedCode);
  /**
   * Starts a part and starts it again when it dies, each by itself: a job process that is killed does not take the pages with it. One that keeps
   * dying waits longer and longer, up to half a minute, and is never given up.
   */
  const supervise = (place, args, env, waitMs = 500) => {
    const child = startChild(process.execPath, args, { env }),
      began = Date.now();
    children[place] = child;
    child.once('exit', (code, signal) => {
      if (stopping) return;
      endedParts++;
      const wait = Date.now() - began > 60_000 ? 500 : waitMs;
      process.stderr.write(`A part of Garnetfinch ended (${signal ?? `exit ${code}`}) and is started again in ${wait / 1000} s.\n`);
      setTimeout(() => {
        if (!stopping) supervise(place, args, env, Math.min(30_000, wait * 2));
      }, wait);
    });
  };
  /** Starts the private database again when it is gone, on the same port. */
  const watchDatabase = () => {
    const lookMs = 2000;
    let waitMs = lookMs;
    const look = async () => {
      if (stopping) return;
      if (!database.isRunning()) {
        process.stderr.write('The database ended and is started again.\n');
        try {
          await startDatabase({ dataDir, outsideUrl });
          waitMs = lookMs;
        } catch (error) {
          process.stderr.write(`${error.message}\n`);
          waitMs = Math.min(30_000, waitMs * 2);
        }
      }
      setTimeout(look, waitMs).unref();
    };
    setTimeout(look, waitMs).unref();
  };
  try {
    ensurePackages();
    mkdirSync(dataDir, { recursive: true });
    if (dev) await buildPoolWorkers();
    else await ensureBuild();
    database = await startDatabase({ dataDir, outsideUrl });
    // The outside exchange that ships with us, unless another is named, or none.
    const exchangePort = port + 80,
      exchangeUrl = process.env.GARNETFINCH_EXCHANGE_URL ?? `http://127.0.0.1:${exchangePort}`,
      shipsExchange = process.env.GARNETFINCH_EXCHANGE_URL === undefined;
    const childEnv = {
      DATABASE_URL: database.url,
      GARNETFINCH_DATA: dataDir,
      PORT: String(port),
      GARNETFINCH_DEMO: demo ? '1' : '0',
      GARNETFINCH_EXCHANGE_URL: exchangeUrl,
      NODE_ENV: dev ? 'development' : 'production',
      ...env,
    };
    if (demo) {
      const marker = join(dataDir, `demo-${sha256(outsideUrl ?? 'private').slice(0, 12)}.json`);
      if (!existsSync(marker)) {
        note('Making the demo library (once; a few minutes) …');
        children[0] = startChild(process.execPath, ['--import', 'tsx', at('demo/install.ts')], {
          env: { ...childEnv, NODE_ENV: 'production' },
        });
        const code = await new Promise((done) => children[0].once('exit', done));
        if (code !== 0)
          throw new Stop(
            stopping
              ? 'Stopped while the demo library was being made; the next start goes on.'
              : 'The demo library could not be made; its messages are above.',
          );
        writeFileSync(marker, JSON.stringify({ madeAt: new Date().toISOString() }));
      }
    }
    const address = `http://127.0.0.1:${port}`;
    const commands = dev
      ? [
          ['--import', 'tsx', at('scripts/dev-server.ts')],
          ['--import', 'tsx', at('server/jobs/main.ts')],
        ]
      : [
          [at('scripts/serve.mjs'), 'web'],
          // Helper threads that collect garbage beside each analysing thread cost a third of a processor here, and win nothing on few cores.
          ['--single-threaded-gc', at('scripts/serve.mjs'), 'jobs'],
        ];
    // Whoever waits for a page has long given up: its queries end.
    const pageEnv = { ...childEnv, GARNETFINCH_STATEMENT_TIMEOUT_MS: '20000' };
    commands.forEach((args, place) => supervise(place, args, place === 0 ? pageEnv : childEnv));
    if (shipsExchange)
      supervise(commands.length, ['--import', 'tsx', at('exchange/main.ts')], {
        EXCHANGE_PORT: String(exchangePort),
        EXCHANGE_FOLDER: join(dataDir, 'exchange'),
      });
    watchDatabase();
    await waitForPage(address, children);
    writeFileSync(runFile, JSON.stringify({ pid: process.pid, address }));
    note(`\nGarnetfinch is ready at  ${address}   (${seconds(began)} s)\nCtrl-C stops it and its database.\n`);
    return { address, stop, children, databaseUrl: database.url, endedParts: () => endedParts };
  } catch (error) {
    await stop();
    throw error;
  }
}
