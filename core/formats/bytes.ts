/** Four characters at `offset`, as Latin-1. */
export function chunkId(bytes: Uint8Array, offset: number): string {
  return latin1(bytes, offset, 4);
}

/** Text of ISO 8859-1, a character a byte; shorter where the bytes end. */
export function latin1(bytes: Uint8Array, offset: number, length: number): string {
  let text = '';
  for (let index = offset; index < Math.min(bytes.length, offset + length); index++) text += String.fromCharCode(bytes[index]);
  return text;
}

/** UTF-8 without TextDecoder, which core may not use; bad sequences become U+FFFD. */
export function utf8(bytes: Uint8Array, offset = 0, length = bytes.length - offset): string {
  let text = '';
  const end = Math.min(bytes.length, offset + length);
  for (let index = offset; index < end;) {
    const first = bytes[index++];
    const extra = first < 0x80 ? 0 : first >= 0xf0 ? 3 : first >= 0xe0 ? 2 : first >= 0xc0 ? 1 : -1;
    if (extra < 0 || index + extra > end) {
      text += '\ufffd';
      continue;
    }
    let code = extra === 0 ? first : first & (0x3f >> extra);
    for (let more = 0; more < extra; more++) code = (code << 6) | (bytes[index++] & 0x3f);
    text += code <= 0x10ffff ? String.fromCodePoint(code) : '\ufffd';
  }
  return text;
}

/** UTF-16 with or without a byte order mark; big-endian when there is none (ID3v2 encoding 2). */
export function utf16(bytes: Uint8Array, offset: number, length: number): string {
  let little = false;
  let start = offset;
  if (bytes[offset] === 0xff && bytes[offset + 1] === 0xfe) {
    little = true;
    start += 2;
  } else if (bytes[offset] === 0xfe && bytes[offset + 1] === 0xff) start += 2;
  let text = '';
  for (let index = start; index + 1 < offset + length; index += 2)
    text += String.fromCharCode(little ? bytes[index] | (bytes[index + 1] << 8) : (bytes[index] << 8) | bytes[index + 1]);
  return text;
}

/** A number of four bytes, the high one first; bytes beyond the end count as 0. */
export const uint32be = (bytes: Uint8Array, offset: number): number =>
  ((bytes[offset] << 24) | (bytes[offset + 1] << 16) | (bytes[offset + 2] << 8) | bytes[offset + 3]) >>> 0;
/** A number of four bytes, the low one first; bytes beyond the end count as 0. */
export const uint32le = (bytes: Uint8Array, offset: number): number =>
  ((bytes[offset + 3] << 24) | (bytes[offset + 2] << 16) | (bytes[offset + 1] << 8) | bytes[offset]) >>> 0;

/** A buffer that grows; for writers whose length is not known beforehand. */
export class ByteWriter {
  private bytes = new Uint8Array(1024);
  length = 0;

  push(...values: number[]): this {
    if (this.length + values.length > this.bytes.length) {
      const larger = new Uint8Array(Math.max(this.bytes.length * 2, this.length + values.length));
      larger.set(this.bytes);
      this.bytes = larger;
    }
    for (const value of values) this.bytes[this.length++] = value & 0xff;
    return this;
  }

  text(value: string): this {
    return this.push(...[...value].map((letter) => letter.charCodeAt(0)));
  }
  u16be(value: number): this {
    return this.push(value >> 8, value);
  }
  u32be(value: number): this {
    return this.push(value >>> 24, value >>> 16, value >>> 8, value);
  }
  u16le(value: number): this {
    return this.push(value, value >> 8);
  }
  u32le(value: number): this {
    return this.push(value, value >>> 8, value >>> 16, value >>> 24);
  }
  append(more: Uint8Array): this {
    for (let at = 0; at < more.length; at += 4096) this.push(...more.subarray(at, at + 4096));
    return this;
  }
  toBytes(): Uint8Array {
    return this.bytes.slice(0, this.length);
  }
}
