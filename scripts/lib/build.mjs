import { createHash } from 'node:crypto';
import { existsSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { at, say } from './paths.mjs';
import { run } from './run.mjs';

const sources = [
  'app',
  'core',
  'server',
  'workers',
  'contracts',
  'demo',
  'public',
  'vite.config.ts',
  'react-router.config.ts',
  'package-lock.json',
  'scripts/lib/build.mjs',
];

function* files(path) {
  if (!existsSync(path)) return;
  if (statSync(path).isFile()) {
    yield path;
    return;
  }
  for (const entry of readdirSync(path).sort()) yield* files(join(path, entry));
}

/** A hash of all files below these places, tests left out. */
export function hashOf(places) {
  const hash = createHash('sha256');
  for (const place of places)
    for (const file of files(at(place))) if (!file.endsWith('.test.ts')) hash.update(file).update(readFileSync(file));
  return hash.digest('hex');
}

const poolWorkers = {
  'build/pool/analyse.worker.mjs': 'server/jobs/pool/analyse.worker.ts',
  'build/pool/demo.worker.mjs': 'demo/demo.worker.ts',
  'build/pool/finder.worker.mjs': 'server/search/finder.worker.ts',
};

/** One of our TypeScript files with all of ours that it needs, as a module for Node; packages stay outside. */
export async function buildTool(outfile, source) {
  const { build } = await import('esbuild');
  await build({
    entryPoints: [at(source)],
    outfile: at(outfile),
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    packages: 'external',
    logLevel: 'error',
    tsconfig: at('tsconfig.json'),
  });
}

/** Bundles the workers of the CPU pools, which import core/ only; needed in production, development and tests alike. */
export async function buildPoolWorkers() {
  for (const [outfile, source] of Object.entries(poolWorkers)) await buildTool(outfile, source);
}

/** Builds the application when its sources changed since the last build. */
export async function ensureBuild() {
  const stamp = at('build/.sources');
  const hash = hashOf(sources);
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  say('Building the application …');
  run(process.execPath, [at('node_modules/@react-router/dev/bin.js'), 'build'], { quiet: true, env: { NODE_ENV: 'production' } });
  await buildPoolWorkers(); // after the application: its build empties the folder
  writeFileSync(stamp, hash);
}
