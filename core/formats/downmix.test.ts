import { downmix, speakersOf } from './downmix';

const planes = (...values: number[]) => values.map((value) => Float32Array.of(value, -value));
const mixed = (values: number[], order: 'usual' | 'vorbis' = 'usual', mask = 0) =>
  downmix(planes(...values), speakersOf(values.length, { order, mask })).map((plane) => Math.round(plane[0] * 1000) / 1000);

test('one channel and two are left as they are', () => {
  const two = planes(0.1, 0.2);
  expect(downmix(two, speakersOf(2, { order: 'usual' }))).toBe(two);
});
test('centre and surround come in at −3 dB, the low-frequency channel does not (ITU-R BS.775-3)', () => {
  expect(mixed([0.5, 0.25, 0, 0, 0, 0])).toEqual([0.5, 0.25]);
  expect(mixed([0, 0, 1, 0, 0, 0])).toEqual([0.707, 0.707]);
  expect(mixed([0, 0, 0, 1, 0, 0])).toEqual([0, 0]);
  expect(mixed([0, 0, 0, 0, 1, 0])).toEqual([0.707, 0]);
  expect(mixed([0, 0, 0, 0, 0, 1])).toEqual([0, 0.707]);
});
test('Vorbis and Opus have the centre second', () => {
  expect(mixed([0, 1, 0], 'vorbis')).toEqual([0.707, 0.707]);
  expect(mixed([0, 0, 1], 'vorbis')).toEqual([0, 1]);
  expect(mixed([0, 0, 0, 0, 0, 1], 'vorbis')).toEqual([0, 0]);
});
test('a WAV’s channel mask has the last word', () => {
  // Left, right, low (bits 0, 1, 3).
  expect(mixed([0.1, 0.2, 1], 'usual', 0b1011)).toEqual([0.1, 0.2]);
  // One surround channel at the back (bit 8) goes to both sides.
  expect(mixed([0, 0, 1], 'usual', 0b100000011)).toEqual([0.5, 0.5]);
});
test('of channels that no order names the first two are heard', () => {
  expect(mixed([0.3, 0.4, 1, 1, 1, 1, 1, 1, 1, 1])).toEqual([0.3, 0.4]);
});
