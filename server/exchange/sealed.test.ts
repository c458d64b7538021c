import { mkdtempSync, rmSync, statSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { seal, secretAt, unseal } from './sealed';

const folder = mkdtempSync(join(tmpdir(), 'sealed-'));
afterAll(() => rmSync(folder, { recursive: true }));

test('the secret is made once, for its own user alone', () => {
  const path = join(folder, 'deep', 'secret'),
    secret = secretAt(path);
  expect(secret).toHaveLength(32);
  expect(secretAt(path)).toEqual(secret);
  expect(statSync(path).mode & 0o077).toBe(0);
});
test('what is sealed is read with the secret and with no other, and not when a bit of it was changed', () => {
  const secret = secretAt(join(folder, 'one')),
    sealed = seal('pebble-0123', secret);
  expect(sealed.includes('pebble')).toBe(false);
  expect(unseal(sealed, secret)).toBe('pebble-0123');
  expect(unseal(sealed, secretAt(join(folder, 'other')))).toBeNull();
  for (let at = 0; at < sealed.length; at++) {
    const changed = Buffer.from(sealed);
    changed[at] ^= 1;
    expect(unseal(changed, secret)).toBeNull();
  }
  // Twice the same text is not the same twice.
  expect(seal('pebble-0123', secret).equals(sealed)).toBe(false);
});
