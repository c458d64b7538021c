import { spawn } from 'node:child_process';
import { resolve } from 'node:path';

/** Runs a module beside ours that says `ready` and waits, tells it to end, and gives what it said and its exit code. */
function endedBy(signal: NodeJS.Signals, body: string): Promise<{ said: string; code: number | null }> {
  const module = `import { stopWithProcess } from ${JSON.stringify(resolve('scripts/lib/stop-with-process.mjs'))};
${body}
setInterval(() => {}, 1000);
console.log('ready');`;
  return new Promise((done) => {
    const child = spawn(process.execPath, ['--input-type=module', '--eval', module], { stdio: ['ignore', 'pipe', 'inherit'] });
    let said = '';
    child.stdout.on('data', (part: Buffer) => {
      if (!said.includes('ready') && (said + part.toString()).includes('ready')) child.kill(signal);
      said += part.toString();
    });
    child.once('close', (code) => done({ said, code }));
  });
}

const later = (word: string): string => `() => new Promise((next) => setTimeout(() => (console.log('${word} stopped'), next()), 50))`;

test.each(['SIGINT', 'SIGTERM', 'SIGHUP'] as const)('told to end by %s, a process first stops what it has started', async (signal) => {
  const { said, code } = await endedBy(signal, `stopWithProcess(${later('one')}, 3); stopWithProcess(${later('other')}, 3);`);
  expect(said).toMatch(/one stopped/);
  expect(said).toMatch(/other stopped/);
  expect(code).toBe(3);
});
test('what has been stopped already is not stopped again; what cannot be stopped keeps nothing else from it', async () => {
  const { said, code } = await endedBy(
    'SIGTERM',
    `stopWithProcess(${later('gone')}, 0)(); stopWithProcess(() => Promise.reject(new Error('no')), 0); stopWithProcess(${later('left')}, 0);`,
  );
  expect(said).not.toMatch(/gone stopped/);
  expect(said).toMatch(/left stopped/);
  expect(code).toBe(0);
});
