import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { at, say, sha256, Stop } from './paths.mjs';
import { run, tryRun } from './run.mjs';

const minimumNode = [20, 19];

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < minimumNode[0] || (major === minimumNode[0] && minor < minimumNode[1])) {
    throw new Stop(`Garnetfinch needs Node ${minimumNode.join('.')} or later; this is ${process.versions.node}.`);
  }
}

/** Installs the npm packages when they are missing or the lock has changed since. */
export function ensurePackages() {
  const stamp = at('node_modules/.garnetfinch-lock');
  const wanted = sha256(readFileSync(at('package-lock.json')) + readFileSync(at('package.json')));
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === wanted) return;
  say('Installing the npm packages (a minute or two) …');
  // `npm ci` refuses a lock that leaves out other platforms' optional packages; `npm install` accepts it. No package needs its install script.
  run('npm', ['install', '--ignore-scripts', '--no-audit', '--no-fund', '--loglevel=error']);
  writeFileSync(stamp, sha256(readFileSync(at('package-lock.json')) + readFileSync(at('package.json'))));
}

const isRoot = () => process.getuid?.() === 0;
const hasSudo = () => tryRun('sudo', ['-n', 'true']).status === 0;

/** Installs a Debian package as root or by password-less sudo; otherwise says the command to run. */
export function installDebianPackage(name, why) {
  const command = `apt-get install -y ${name}`;
  const canInstall = tryRun('sh', ['-c', 'command -v apt-get']).status === 0 && (isRoot() || hasSudo());
  if (!canInstall) throw new Stop(`${why}\nPlease run:  sudo ${command}\nand then start again.`);
  say(`Installing Debian's ${name} …`);
  const prefix = isRoot() ? [] : ['sudo', '-n'];
  const apt = (...args) =>
    run(...(([head, ...rest]) => [head, rest])([...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', '-qq', ...args]), {
      quiet: true,
    });
  try {
    apt('install', '-y', name);
  } catch {
    apt('update');
    apt('install', '-y', name);
  }
}

const headlessShell = '/usr/bin/chromium-headless-shell',
  browsers = ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'];

/**
 * The path of Chromium for the browser tests; installs Debian's where missing. Its headless shell comes first: without the windows that nobody sees,
 * a page costs a quarter less. `CHROMIUM` names another.
 */
export function ensureChromium() {
  if (process.env.CHROMIUM) return process.env.CHROMIUM;
  const find = () => [headlessShell, ...browsers].find(existsSync),
    why = 'The browser tests need Chromium.';
  if (!existsSync(headlessShell))
    try {
      installDebianPackage('chromium-headless-shell', why);
    } catch {
      if (!find()) installDebianPackage('chromium', why);
    }
  const found = find();
  if (!found) throw new Stop('Chromium was installed but not found; set CHROMIUM to its path.');
  return found;
}
