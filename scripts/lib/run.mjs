import { spawn, spawnSync } from 'node:child_process';
import { openSync } from 'node:fs';
import { root, Stop } from './paths.mjs';

/** Where children's words go: 1, or 2 in commands whose standard output is a result. */
export const output = { descriptor: 1 };

/** Runs to the end with its output shown. @throws {Stop} when it fails */
export function run(command, args, { env = {}, quiet = false, cwd = root } = {}) {
  const result = spawnSync(command, args, {
    cwd,
    env: { ...process.env, ...env },
    stdio: quiet ? ['ignore', 'pipe', 'pipe'] : ['ignore', output.descriptor, 'inherit'],
    encoding: 'utf8',
  });
  if (result.error) throw new Stop(`Could not run ${command}: ${result.error.message}`);
  if (result.status !== 0)
    throw new Stop(
      `${command} ${args.slice(0, 3).join(' ')} failed${quiet ? `:\n${result.stdout}${result.stderr}` : ''} (exit ${result.status})`,
    );
  return result.stdout ?? '';
}

/** Runs and returns {status, stdout, stderr}; never throws. */
export function tryRun(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, encoding: 'utf8', ...options });
  return { status: result.error ? 127 : result.status, stdout: result.stdout ?? '', stderr: result.stderr ?? '' };
}

/** Starts a long-lived child. With `logFile` its output goes there, else it is shown. */
export function startChild(command, args, { env = {}, logFile = null } = {}) {
  const out = logFile ? openSync(logFile, 'a') : 'inherit';
  return spawn(command, args, { cwd: root, env: { ...process.env, ...env }, stdio: ['ignore', out, out] });
}

/** Asks a child to end, insists after `graceMs`. */
export function endChild(child, graceMs = 6000) {
  if (!child || child.exitCode !== null || child.signalCode !== null) return Promise.resolve();
  return new Promise((done) => {
    const insist = setTimeout(() => child.kill('SIGKILL'), graceMs);
    child.once('exit', () => {
      clearTimeout(insist);
      done();
    });
    child.kill('SIGTERM');
  });
}

export function isAlive(pid) {
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === 'EPERM';
  }
}
