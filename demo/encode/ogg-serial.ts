import { pageCrc } from '~core/formats/ogg/pages';

/** Gives a one-stream Ogg file a fixed serial number; the encoder draws one at random, and our files must have the same bytes each time. */
export function withSerial(file: Uint8Array, serial: number): Uint8Array {
  const bytes = file.slice(),
    view = new DataView(bytes.buffer);
  for (let at = 0; at + 27 <= bytes.length;) {
    const segments = bytes[at + 26];
    let length = 27 + segments;
    for (let k = 0; k < segments; k++) length += bytes[at + 27 + k];
    view.setUint32(at + 14, serial, true);
    view.setUint32(at + 22, 0, true);
    view.setUint32(at + 22, pageCrc(bytes.subarray(at, at + length)), true);
    at += length;
  }
  return bytes;
}
