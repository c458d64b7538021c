import { spawn } from 'node:child_process';
import { mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { runTypeScript, startApplication } from './lib/application.mjs';
import { buildPoolWorkers, ensureBuild } from './lib/build.mjs';
import { layFreshDemo } from './lib/fresh-demo.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensureChromium, ensurePackages } from './lib/packages.mjs';
import { at, dataDir, say } from './lib/paths.mjs';
import { startDatabase } from './lib/postgres.mjs';
import { stopWithProcess } from './lib/stop-with-process.mjs';

/**
 * npm test: types, lint with the layer rules, unit and database tests, then the browser on the production build with the demo
 * library. `--only NAME` runs one part (types, lint, unit, e2e). Everything it makes lies in its own data folder.
 */
const only = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : null;
const passOn = process.argv.includes('--') ? process.argv.slice(process.argv.indexOf('--') + 1) : [];
const testData = join(dataDir, 'test');
const bin = (path) => at('node_modules', path);
let passed = 0,
  failed = 0;

/** Runs a command with its output shown, gives the exit code. */
function show(command, args, env = {}) {
  return new Promise((done) =>
    spawn(command, args, { cwd: at('.'), stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } }).once(
      'exit',
      (code, signal) => done(signal ? 1 : code),
    ),
  );
}

async function step(name, command, args, env) {
  say(`\n── ${name}`);
  const code = await show(command, args, env);
  if (code === 0) passed++;
  else {
    failed++;
    say(`${name}: failed`);
  }
}

function count(file, read) {
  try {
    const { good, bad } = read(JSON.parse(readFileSync(file, 'utf8')));
    passed += good;
    failed += bad;
  } catch {
    failed++;
    say(`No result in ${file}`);
  }
}

await main(async () => {
  checkNode();
  const wants = (name) => only === null || only === name;
  // Who needs them asks for them again, and says what is wrong.
  const installed = only === null ? show(process.execPath, [at('scripts/lib/install-ahead.mjs')]) : Promise.resolve();
  ensurePackages();
  await installed;
  mkdirSync(testData, { recursive: true });
  const checkTypes = async () => {
    await step('Types', process.execPath, [bin('typescript/bin/tsc'), '--noEmit']);
    await step('Types of core/, without Node or DOM', process.execPath, [bin('typescript/bin/tsc'), '--noEmit', '-p', 'core']);
  };
  const checkLint = async () => {
    await step('Lint', process.execPath, [bin('eslint/bin/eslint.js'), '.', '--max-warnings', '0']);
    await step('Layers', process.execPath, [
      bin('dependency-cruiser/bin/dependency-cruise.mjs'),
      '--config',
      '.dependency-cruiser.cjs',
      'core',
      'workers',
      'contracts',
      'server',
      'app',
      'demo',
      'exchange',
    ]);
  };
  // One to a core; both read the types of the routes.
  if (wants('types') || wants('lint')) await show(process.execPath, [bin('@react-router/dev/bin.js'), 'typegen']);
  await Promise.all([wants('types') && checkTypes(), wants('lint') && checkLint()]);
  if (wants('unit')) {
    say('\n── Unit and database tests');
    await ensureBuild();
    await buildPoolWorkers();
    const database = await startDatabase({ dataDir: join(testData, 'unit'), outsideUrl: undefined, isForTests: true });
    const takeOff = stopWithProcess(() => database.stop());
    runTypeScript('test/db/make-template.ts', [], { TEST_DATABASE_URL: database.url });
    const result = join(testData, 'jest.json');
    rmSync(result, { force: true });
    rmSync(join(testData, 'unit', 'files'), { recursive: true, force: true });
    await show(process.execPath, [bin('jest/bin/jest.js'), '--json', `--outputFile=${result}`, ...passOn], {
      TEST_DATABASE_URL: database.url,
      GARNETFINCH_DATA: join(testData, 'unit'),
      // As many files are tested at once as there are cores: a second thread for each would warm up for nothing.
      GARNETFINCH_THREADS: '1',
      NODE_OPTIONS: '--no-deprecation',
    });
    takeOff();
    database.stop();
    count(result, (json) => ({ good: json.numPassedTests, bad: json.numFailedTests + json.numRuntimeErrorTestSuites }));
  }
  if (wants('e2e')) {
    say('\n── Browser tests on the production build');
    const chromium = ensureChromium(),
      port = Number(process.env.TEST_PORT ?? 3117),
      dataDir = join(testData, 'e2e');
    await layFreshDemo({ dataDir, keptDir: join(testData, 'demo'), port });
    const application = await startApplication({ port, dataDir, outsideUrl: undefined, demo: true });
    try {
      for (const project of ['beside', 'alone']) {
        const result = join(testData, `e2e-${project}.json`);
        rmSync(result, { force: true });
        await show(process.execPath, [bin('@playwright/test/cli.js'), 'test', `--project=${project}`, '--pass-with-no-tests', ...passOn], {
          CHROMIUM: chromium,
          TEST_ADDRESS: application.address,
          TEST_DATABASE_URL: application.databaseUrl,
          TEST_DATA: dataDir,
          PLAYWRIGHT_JSON_OUTPUT_NAME: result,
          TEST_OUTPUT: join(testData, `e2e-output-${project}`),
        });
        count(result, (json) => ({ good: json.stats.expected + json.stats.flaky, bad: json.stats.unexpected + json.errors.length }));
      }
      // Whatever the pages made of it: it is started again, and everybody else's stream of news was broken.
      if (application.endedParts() > 0) {
        failed++;
        say(`A part of the application died ${application.endedParts()} times; what it said is above.`);
      }
    } finally {
      await application.stop();
    }
  }
  say(`\n${passed} passed, ${failed} failed`);
  process.exit(failed === 0 && passed > 0 ? 0 : 1);
});
