/**
 * A vendor's path made harmless: forward slashes, no drive, no leading slash, no `.`, no control characters. A path that
 * climbs (`..`) is refused (CWE-22). @returns null when nothing usable is left
 */
export function safePath(path: string): string | null {
  const parts = path
    .replaceAll('\\', '/')
    .replace(/^[A-Za-z]:/, '')
    .replace(/[\u0000-\u001f\u007f]/g, '')
    .split('/')
    .map((part) => part.trim())
    .filter((part) => part !== '' && part !== '.');
  if (parts.length === 0 || parts.includes('..')) return null;
  const joined = parts.join('/');
  return joined.length <= 1000 ? joined : null;
}

/** Files that operating systems leave in archives; they are nobody's loops. */
export function isSystemFile(path: string): boolean {
  return /(^|\/)(__MACOSX|\.[^/]+|Thumbs\.db|desktop\.ini)(\/|$)/i.test(path);
}
