import { flacFramesAreWhole, isFlacFrameHeader } from './frames';

/** The CRCs bit by bit, as RFC 9639 writes them: another way than the tables of the code. */
function crc(bytes: readonly number[], polynomial: number, bits: number): number {
  let value = 0;
  for (const byte of bytes)
    for (let bit = 7; bit >= 0; bit--) {
      const carry = ((value >> (bits - 1)) & 1) ^ ((byte >> bit) & 1);
      value = ((value << 1) & (2 ** bits - 1)) ^ (carry ? polynomial : 0);
    }
  return value;
}

/** A frame of one channel of 16 bits with numbers kept as they are; its values begin with what looks like the start of a frame. */
function frame(number: number, blockFrames: number): number[] {
  const header = [0xff, 0xf8, 0x79, 0x08, number, (blockFrames - 1) >> 8, (blockFrames - 1) & 255];
  header.push(crc(header, 0x07, 8));
  const values = Array.from({ length: blockFrames * 2 }, (_, i) =>
    i < 8 ? [0xff, 0xf8, 0x79, 0x08, 0, 0, 3, 0][i] : (i * 37 + number) & 255,
  );
  const body = [...header, 0x02, ...values],
    check = crc(body, 0x8005, 16);
  return [...body, check >> 8, check & 255];
}

const frames = [0, 1, 2].flatMap((number) => frame(number, 200)),
  whole = Uint8Array.from([1, 2, 3, ...frames]);

test('a header is known by its own check', () => {
  expect(isFlacFrameHeader(whole, 3)).toBe(true);
  expect(isFlacFrameHeader(whole, 4)).toBe(false);
  expect(isFlacFrameHeader(whole.subarray(0, 9), 3)).toBe(false);
});
test('whole frames are whole, with what programs put behind them', () => {
  const tag = [...'TAG'].map((letter) => letter.charCodeAt(0));
  for (const tail of [[], [0, 0, 0, 0], [...tag, ...new Array<number>(125).fill(32)]])
    expect(flacFramesAreWhole(Uint8Array.from([...whole, ...tail]), 3)).toBe(true);
});
test('no byte can be changed, left out or put in anywhere', () => {
  for (let at = 3; at < whole.length; at++) {
    const changed = Uint8Array.from(whole);
    changed[at] ^= 1 << (at & 7);
    expect([at, flacFramesAreWhole(changed, 3)]).toEqual([at, false]);
  }
  for (let at = 3; at < whole.length; at += 7) {
    expect(flacFramesAreWhole(Uint8Array.from([...whole.subarray(0, at), ...whole.subarray(at + 1)]), 3)).toBe(false);
    expect(flacFramesAreWhole(Uint8Array.from([...whole.subarray(0, at), 0x11, ...whole.subarray(at)]), 3)).toBe(false);
  }
});
test('a file cut off in a frame is not whole', () => {
  const one = frames.length / 3;
  for (const length of [one - 1, one + 5, 2 * one - 1, 3 * one - 2])
    expect(flacFramesAreWhole(whole.subarray(0, 3 + length), 3)).toBe(false);
  expect(flacFramesAreWhole(whole.subarray(0, 3 + 2 * one), 3)).toBe(true);
});
