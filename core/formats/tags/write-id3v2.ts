import { ByteWriter } from '../bytes';
import { id3Key, tempoText, type FactsOut } from './facts-out';

/** UTF-8 bytes of a text, without TextEncoder, which the core may not use. */
export function utf8Bytes(text: string): number[] {
  const bytes: number[] = [];
  for (const letter of text) {
    const code = letter.codePointAt(0) as number;
    if (code < 0x80) bytes.push(code);
    else if (code < 0x800) bytes.push(0xc0 | (code >> 6), 0x80 | (code & 63));
    else if (code < 0x10000) bytes.push(0xe0 | (code >> 12), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63));
    else bytes.push(0xf0 | (code >> 18), 0x80 | ((code >> 12) & 63), 0x80 | ((code >> 6) & 63), 0x80 | (code & 63));
  }
  return bytes;
}

const syncsafe = (value: number): number[] => [(value >> 21) & 127, (value >> 14) & 127, (value >> 7) & 127, value & 127];
const ascii = (text: string): number[] => [...text].map((letter) => letter.charCodeAt(0));

/** A text frame in UTF-8 (ID3v2.4.0 frames, 4.2). */
function frame(id: string, text: string): number[] {
  const body = [3, ...utf8Bytes(text)];
  return [...ascii(id), ...syncsafe(body.length), 0, 0, ...body];
}

/** An ID3v2.4 tag with title, tempo, key, genre, author and a comment; frames of which nothing is known are left out. */
export function writeId3v2({ title, tempoBpm, key, genre, author, comment, confirmed }: FactsOut): Uint8Array {
  const commentBody = [3, ...ascii('eng'), 0, ...utf8Bytes(comment)],
    frames = [
      ...frame('TIT2', title),
      // A whole number by the standard.
      ...(tempoBpm === null ? [] : frame('TBPM', String(Math.round(tempoBpm)))),
      ...(tempoBpm === null || Number.isInteger(tempoBpm) ? [] : userText('tempo', tempoText(tempoBpm))),
      ...(confirmed.length ? userText('confirmed', confirmed.join(',')) : []),
      ...(key === null ? [] : frame('TKEY', id3Key(key))),
      ...(genre ? frame('TCON', genre) : []),
      ...(author ? frame('TPE1', author) : []),
      ...(comment ? [...ascii('COMM'), ...syncsafe(commentBody.length), 0, 0, ...commentBody] : []),
    ];
  return new ByteWriter()
    .text('ID3')
    .push(4, 0, 0, ...syncsafe(frames.length))
    .append(Uint8Array.from(frames))
    .toBytes();
}

/** A frame of one's own (`TXXX`): name, zero, value. */
function userText(name: string, value: string): number[] {
  const body = [3, ...utf8Bytes(name), 0, ...utf8Bytes(value)];
  return [...ascii('TXXX'), ...syncsafe(body.length), 0, 0, ...body];
}
