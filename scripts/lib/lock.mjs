import { mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';
import { Stop } from './paths.mjs';
import { isAlive } from './run.mjs';

/** Takes a lock file that names its process; a dead owner's lock is taken over. Returns a function that gives it back. */
export function takeLock(file, refusal) {
  mkdirSync(dirname(file), { recursive: true });
  for (let attempt = 0; attempt < 2; attempt++) {
    try {
      writeFileSync(file, String(process.pid), { flag: 'wx' });
      const release = () => {
        try {
          if (readFileSync(file, 'utf8') === String(process.pid)) rmSync(file);
        } catch {
          /* already gone */
        }
      };
      process.once('exit', release);
      return release;
    } catch (error) {
      if (error.code !== 'EEXIST') throw error;
      const owner = Number(readFileSync(file, 'utf8'));
      if (owner && isAlive(owner)) throw new Stop(refusal(owner));
      rmSync(file, { force: true });
    }
  }
  throw new Stop(`Could not take the lock ${file}.`);
}
