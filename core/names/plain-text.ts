/**
 * The text in a file of unknown coding: UTF-16 by its byte order mark (The Unicode Standard, D98), else UTF-8, else Latin-1. Characters that no text has
 * (NUL and its like) are left out.
 */
export function plainText(bytes: Uint8Array): string {
  const [first, second] = bytes,
    text =
      first === 0xff && second === 0xfe
        ? utf16(bytes, 0)
        : first === 0xfe && second === 0xff
          ? utf16(bytes, 1)
          : (utf8OrNull(bytes) ?? latin1(bytes));
  return text
    .replace(/^\ufeff/, '')
    .replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\u007f]/g, '')
    .replace(/\r\n?/g, '\n');
}

/** `highFirst` is 1 where the high byte comes first. */
function utf16(bytes: Uint8Array, highFirst: 0 | 1): string {
  let text = '';
  for (let at = 2; at + 1 < bytes.length; at += 2) text += String.fromCharCode((bytes[at + 1 - highFirst] << 8) | bytes[at + highFirst]);
  return text;
}

const latin1 = (bytes: Uint8Array): string => Array.from(bytes, (byte) => String.fromCharCode(byte)).join('');

/** null for what is not well-formed UTF-8 (RFC 3629). */
function utf8OrNull(bytes: Uint8Array): string | null {
  try {
    // decodeURIComponent refuses what is not well-formed, and needs no host's decoder.
    return decodeURIComponent(
      Array.from(bytes, (byte) =>
        byte < 0x80 && byte !== 0x25 ? String.fromCharCode(byte) : `%${byte.toString(16).padStart(2, '0')}`,
      ).join(''),
    );
  } catch {
    return null;
  }
}
