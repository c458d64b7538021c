import { latin1, uint32be, utf16, utf8 } from '../bytes';

/** Frames of ID3v2.2 by the names that they have since 2.3 (id3.org, ID3v2.2.0 and 2.3.0). */
const laterNames: Readonly<Record<string, string>> = {
  TBP: 'TBPM',
  TKE: 'TKEY',
  TCO: 'TCON',
  TT2: 'TIT2',
  TP1: 'TPE1',
  TAL: 'TALB',
  TYE: 'TYER',
};

/**
 * The text frames of an ID3v2.2, 2.3 or 2.4 tag (id3.org informal standards): TBPM, TKEY, TCON, TIT2 … by frame id, those of 2.2 by their
 * later names. Damaged or absent tags give what could be read.
 */
export function parseId3v2(bytes: Uint8Array, offset = 0): Readonly<Record<string, string>> {
  const frames: Record<string, string> = {};
  if (latin1(bytes, offset, 3) !== 'ID3') return frames;
  const major = bytes[offset + 3];
  if (major !== 2 && major !== 3 && major !== 4) return frames;
  const end = Math.min(bytes.length, offset + 10 + syncsafe(bytes, offset + 6));
  let at = offset + 10;
  if (major === 2) {
    for (; at + 6 < end;) {
      const id = latin1(bytes, at, 3),
        length = (bytes[at + 3] << 16) | (bytes[at + 4] << 8) | bytes[at + 5];
      if (!/^[A-Z0-9]{3}$/.test(id) || length < 1 || at + 6 + length > end) break;
      if (id in laterNames) frames[laterNames[id]] = decodeText(bytes, at + 6, length);
      at += 6 + length;
    }
    return frames;
  }
  if (bytes[offset + 5] & 0x40) at += major === 4 ? syncsafe(bytes, at) : 4 + uint32be(bytes, at);
  while (at + 10 < end) {
    const id = latin1(bytes, at, 4);
    const length = major === 4 ? syncsafe(bytes, at + 4) : uint32be(bytes, at + 4);
    if (!/^[A-Z0-9]{4}$/.test(id) || length < 1 || at + 10 + length > end) break;
    if (id === 'TXXX') readUserText(bytes, at + 10, length, frames);
    else if (id.startsWith('T')) frames[id] = decodeText(bytes, at + 10, length);
    at += 10 + length;
  }
  return frames;
}

/** A frame of one's own, in UTF-8 or ISO 8859-1: its name in capitals behind `TXXX:`. */
function readUserText(bytes: Uint8Array, at: number, length: number, frames: Record<string, string>): void {
  if (bytes[at] !== 0 && bytes[at] !== 3) return;
  const text = bytes[at] === 3 ? utf8(bytes, at + 1, length - 1) : latin1(bytes, at + 1, length - 1),
    [name, value] = text.split('\0');
  if (value !== undefined) frames[`TXXX:${name.toUpperCase()}`] = value.trim();
}

function decodeText(bytes: Uint8Array, at: number, length: number): string {
  const encoding = bytes[at];
  const text =
    encoding === 0
      ? latin1(bytes, at + 1, length - 1)
      : encoding === 3
        ? utf8(bytes, at + 1, length - 1)
        : utf16(bytes, at + 1, length - 1);
  return text.split('\0')[0].trim();
}

const syncsafe = (bytes: Uint8Array, at: number): number =>
  ((bytes[at] & 0x7f) << 21) | ((bytes[at + 1] & 0x7f) << 14) | ((bytes[at + 2] & 0x7f) << 7) | (bytes[at + 3] & 0x7f);
