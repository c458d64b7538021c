import { createCipheriv, createDecipheriv, randomBytes } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname } from 'node:path';

const method = 'aes-256-gcm',
  nonceBytes = 12,
  markBytes = 16;

/** The secret of this installation, made when first asked for; only its own user may read it. @param path of the file that keeps it */
export function secretAt(path: string): Buffer {
  if (!existsSync(path)) {
    mkdirSync(dirname(path), { recursive: true });
    try {
      writeFileSync(path, randomBytes(32), { mode: 0o600, flag: 'wx' });
    } catch (error) {
      // Another process was first.
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
  return readFileSync(path);
}

/** A text that only who has the secret can read (AES-256-GCM, NIST SP 800-38D): nonce, mark, cipher. */
export function seal(text: string, secret: Buffer): Buffer {
  const nonce = randomBytes(nonceBytes),
    cipher = createCipheriv(method, secret, nonce),
    body = Buffer.concat([cipher.update(text, 'utf8'), cipher.final()]);
  return Buffer.concat([nonce, cipher.getAuthTag(), body]);
}

/** @returns null for what was changed, or sealed with another secret */
export function unseal(sealed: Buffer, secret: Buffer): string | null {
  try {
    const decipher = createDecipheriv(method, secret, sealed.subarray(0, nonceBytes));
    decipher.setAuthTag(sealed.subarray(nonceBytes, nonceBytes + markBytes));
    return Buffer.concat([decipher.update(sealed.subarray(nonceBytes + markBytes)), decipher.final()]).toString('utf8');
  } catch {
    return null;
  }
}
