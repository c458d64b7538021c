// npm run -s analyze -- [--audio-only] [--json] [--out FILE] [--jobs N] PATH…: what is known of sound files and folders of them, without the library.
import { spawnSync } from 'node:child_process';
import { buildTool } from './lib/build.mjs';
import { main } from './lib/main.mjs';
import { checkNode, ensurePackages } from './lib/packages.mjs';
import { output } from './lib/run.mjs';
import { at, root, Stop } from './lib/paths.mjs';

// The results have standard output for themselves.
process.stdout.write = process.stderr.write.bind(process.stderr);
output.descriptor = 2;

await main(async () => {
  checkNode();
  ensurePackages();
  await buildTool('build-tools/describe.worker.mjs', 'command/describe.worker.ts');
  await buildTool('build-tools/analyze.mjs', 'command/analyze.ts');
  const { status } = spawnSync(process.execPath, [at('build-tools/analyze.mjs'), ...process.argv.slice(2)], {
    stdio: 'inherit',
    cwd: root,
    env: { INIT_CWD: process.cwd(), ...process.env },
  });
  if (status === null) throw new Stop('The analysis was stopped.');
  process.exitCode = status;
});
