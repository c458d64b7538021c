import { randomBytes, scrypt, timingSafeEqual } from 'node:crypto';
import { promisify } from 'node:util';
import pLimit from 'p-limit';

const deriveAtOnce = promisify(scrypt) as (password: string, salt: Buffer, length: number, options: object) => Promise<Buffer>;
/** A guess takes a thread and 32 MB: more at once would keep sounds and pages waiting. */
const twoAtATime = pLimit(2);
const derive: typeof deriveAtOnce = (...given) => twoAtATime(() => deriveAtOnce(...given));

/** OWASP Password Storage Cheat Sheet: scrypt with N = 2^15, r = 8, p = 3 (32 MB a guess). */
const cost = { N: 2 ** 15, r: 8, p: 3, maxmem: 128 * 1024 * 1024 };

export async function hashPassword(password: string): Promise<string> {
  const salt = randomBytes(16);
  return `scrypt$${cost.N}$${cost.r}$${cost.p}$${salt.toString('base64')}$${(await derive(password, salt, 32, cost)).toString('base64')}`;
}

export async function verifyPassword(password: string, stored: string): Promise<boolean> {
  const [scheme, n, r, p, salt, hash] = stored.split('$');
  if (scheme !== 'scrypt') return false;
  const expected = Buffer.from(hash, 'base64');
  const got = await derive(password, Buffer.from(salt, 'base64'), expected.length, {
    N: Number(n),
    r: Number(r),
    p: Number(p),
    maxmem: cost.maxmem,
  });
  return timingSafeEqual(expected, got);
}

/** So many passwords wait for their turn. */
export const waitingPasswords = (): number => twoAtATime.pendingCount;
