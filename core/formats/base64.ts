const alphabet = 'ABCDEFGHIJKLMNOPQRSTUVWXYZabcdefghijklmnopqrstuvwxyz0123456789+/';

/** Bytes of a text in base64; works where neither Node's Buffer nor the browser's atob is. */
export function bytesFromBase64(text: string): Uint8Array {
  const values = new Uint8Array(128);
  for (let k = 0; k < 64; k++) values[alphabet.charCodeAt(k)] = k;
  const clean = text.replace(/=+$/, ''),
    out = new Uint8Array(Math.floor((clean.length * 3) / 4));
  for (let i = 0, at = 0; at < out.length; i += 4) {
    const word =
      (values[clean.charCodeAt(i)] << 18) |
      (values[clean.charCodeAt(i + 1)] << 12) |
      ((i + 2 < clean.length ? values[clean.charCodeAt(i + 2)] : 0) << 6) |
      (i + 3 < clean.length ? values[clean.charCodeAt(i + 3)] : 0);
    for (let shift = 16; shift >= 0 && at < out.length; shift -= 8) out[at++] = (word >> shift) & 255;
  }
  return out;
}
