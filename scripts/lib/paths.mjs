import { createHash } from 'node:crypto';
import { dirname, isAbsolute, join, resolve } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = resolve(dirname(fileURLToPath(import.meta.url)), '../..');

/** Where everything that is made at run time lives. `GARNETFINCH_DATA` moves it. */
export const dataDir = resolve(root, process.env.GARNETFINCH_DATA ?? '.data');

export const at = (...parts) => (isAbsolute(parts[0]) ? join(...parts) : join(root, ...parts));
export const sha256 = (text) => createHash('sha256').update(text).digest('hex');

export function say(text) {
  process.stdout.write(`${text}\n`);
}

/** Ends the script with a sentence for the person, not a stack. */
export class Stop extends Error {}
