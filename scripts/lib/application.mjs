import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { buildPoolWorkers, ensureBuild } from './build.mjs';
import { takeLock } from './lock.mjs';
import { checkNode, ensurePackages } from './packages.mjs';
import { at, dataDir as defaultDataDir, say, sha256, Stop } from './paths.mjs';
import { startDatabase } from './postgres.mjs';
import { endChild, run, startChild } from './run.mjs';

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
 * Everything from a bare checkout to an answering application. Returns `{ address, stop }`.
 * `demo`: make the demo library on the first start.
 */
export async function startApplication({
  port = Number(process.env.PORT ?? 3000),
  dataDir = defaultDataDir,
  outsideUrl = process.env.DATABASE_URL,
  demo = process.env.GARNETFINCH_DEMO !== '0',
  dev = false,
  env = {},
  quiet = false,
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
  let database = null;
  const stop = async () => {
    await Promise.all(children.map((child) => endChild(child)));
    database?.stop();
    rmSync(runFile, { force: true });
    release();
  };
  try {
    ensurePackages();
    mkdirSync(dataDir, { recursive: true });
    if (dev) await buildPoolWorkers();
    else await ensureBuild();
    database = await startDatabase({ dataDir, outsideUrl });
    const childEnv = {
      DATABASE_URL: database.url,
      GARNETFINCH_DATA: dataDir,
      PORT: String(port),
      GARNETFINCH_DEMO: demo ? '1' : '0',
      NODE_ENV: dev ? 'development' : 'production',
      ...env,
    };
    if (demo) {
      const marker = join(dataDir, `demo-${sha256(outsideUrl ?? 'private').slice(0, 12)}.json`);
      if (!existsSync(marker)) {
        note('Making the demo library (once; a few minutes) …');
        runTypeScript('demo/install.ts', [], { ...childEnv, NODE_ENV: 'production' });
        writeFileSync(marker, JSON.stringify({ madeAt: new Date().toISOString() }));
      }
    }
    const address = `http://127.0.0.1:${port}`;
    if (dev) {
      children.push(startChild(process.execPath, ['--import', 'tsx', at('scripts/dev-server.ts')], { env: childEnv }));
      children.push(startChild(process.execPath, ['--import', 'tsx', at('server/jobs/main.ts')], { env: childEnv }));
    } else {
      children.push(startChild(process.execPath, [at('scripts/serve.mjs'), 'web'], { env: childEnv }));
      children.push(startChild(process.execPath, [at('scripts/serve.mjs'), 'jobs'], { env: childEnv }));
    }
    await waitForPage(address, children);
    writeFileSync(runFile, JSON.stringify({ pid: process.pid, address }));
    note(`\nGarnetfinch is ready at  ${address}   (${seconds(began)} s)\nCtrl-C stops it and its database.\n`);
    return { address, stop, children, databaseUrl: database.url };
  } catch (error) {
    await stop();
    throw error;
  }
}
