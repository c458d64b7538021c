import { createRandom } from '../synth/random';
import type { Detail } from '../analysis/analysis';
import { ProfileReader, profileOf } from './fit/profile';
import { alongWay, harmonyLikeness, readTaps, rhythmLikeness, soundLikeness, soundLikenesses, tappedLikeness } from './near';

const bar = (...pitches: number[]) => ({
  pitchClasses: Array.from({ length: 12 }, (_, pitch) => (pitches.includes(pitch) ? 1 : 0)),
  notes: [],
  bass: null,
  chord: null,
});
function profile(accents: readonly number[], bars: Detail['bars'] = [], spreadMs = 5): ProfileReader {
  return new ProfileReader(
    profileOf({
      readings: [],
      pulse: [],
      groove: { accents: [accents, accents, accents], swing: null, spreadMs },
      bars,
      families: [],
      levels: null,
      character: [],
      bands: new Array<number>(10).fill(0.1),
      tuningAgreement: 1,
      heardSeconds: null,
      density: 2,
      brightnessHz: 1200,
      fallSeconds: 0.4,
    }) ?? new Uint8Array(),
  );
}
const hits = (...cells: number[]): number[] => Array.from({ length: 16 }, (_, cell) => (cells.includes(cell) ? 1 : 0));

test('a profile gives back what went in, to within its steps', () => {
  const read = profile(hits(0, 3, 6, 10), [bar(0, 4, 7)], 9.5);
  expect([read.isKnown, read.cells, read.bars]).toEqual([true, 16, 1]);
  expect([0, 3, 6, 10].map((cell) => read.accent(cell))).toEqual([1, 1, 1, 1]);
  expect(read.pitch(0, 4)).toBe(1);
  expect(read.spreadMs).toBeCloseTo(9.5, 0);
  expect(read.brightnessOctaves).toBeCloseTo(Math.log2(1200 / 50), 1);
  expect(read.density).toBeCloseTo(2, 1);
  expect(read.fallSeconds).toBeCloseTo(0.4, 1);
  expect(profileOf(null)).toBeNull();
});
test('sounds: alike is 1, and farther is less', () => {
  const a = Int8Array.from({ length: 32 }, (_, k) => k),
    b = a.map((value) => value + 4),
    c = a.map((value) => -value);
  expect(soundLikeness(a, 0, a, 0)).toBe(1);
  expect(soundLikeness(a, 0, b, 0)).toBeGreaterThan(soundLikeness(a, 0, c, 0));
});
test('many sounds at a time are as alike as each by itself, beyond what one block holds', () => {
  const random = createRandom(9),
    bytes = (rows: number) => Int8Array.from({ length: rows * 32 }, () => Math.floor(random() * 256) - 128),
    rows = bytes(10_000),
    wanted = bytes(3),
    found = new Float32Array(10_000);
  // The farthest there is, and none at all.
  rows.fill(-128, 0, 32);
  wanted.fill(127, 32, 64);
  rows.set(wanted.subarray(32, 64), 9_999 * 32);
  soundLikenesses(rows, wanted, 32, found);
  for (let k = 0; k < found.length; k++) if (found[k] !== Math.fround(soundLikeness(rows, k * 32, wanted, 32))) expect(k).toBe('as alike');
  expect(found[9_999]).toBe(1);
  expect(found[0]).toBeCloseTo(1 / (1 + Math.sqrt(32 * 255 ** 2) / 48), 6);
});
test('rhythms: the same accents, wherever they came from; one hit elsewhere is nearer than all elsewhere', () => {
  const own = profile(hits(0, 3, 6, 10, 12)),
    near = profile(hits(0, 3, 6, 10, 13)),
    far = profile(hits(1, 4, 7, 11, 14));
  expect(rhythmLikeness(own, own)).toBeCloseTo(1, 5);
  expect(rhythmLikeness(own, near)).toBeGreaterThan(rhythmLikeness(own, far));
  expect(rhythmLikeness(own, new ProfileReader(new Uint8Array(200)))).toBeNaN();
});
test('progressions: the same ones at any pitch', () => {
  const own = profile(hits(0), [bar(0, 4, 7), bar(5, 9, 0)]),
    moved = profile(hits(0), [bar(3, 7, 10), bar(8, 0, 3)]),
    other = profile(hits(0), [bar(0, 3, 6), bar(1, 2, 11)]);
  expect(harmonyLikeness(own, moved)).toBeCloseTo(1, 5);
  expect(harmonyLikeness(own, other)).toBeLessThan(0.8);
});
test('ways lead up and down the same measure', () => {
  const [tight, loose] = [profile(hits(0), [], 3), profile(hits(0), [], 15)];
  expect(alongWay(tight, 'tighter')).toBeGreaterThan(alongWay(loose, 'tighter') ?? 0);
  expect(alongWay(tight, 'looser')).toBeLessThan(alongWay(loose, 'looser') ?? 0);
});
test('a rhythm is found by tapping it at other tempos, ± 25 ms, begun at any of its hits: in the first five of over 300, each asked for', () => {
  const random = createRandom(3),
    // So many that over 300 of them have the four hits that a rhythm needs.
    patterns = Array.from({ length: 330 }, () => {
      const own = Array.from({ length: 16 }, (_, cell) => (random() < (cell % 4 === 0 ? 0.6 : 0.28) ? 1 : 0));
      own[0] = 1;
      return own;
    }).filter((own) => own.filter((value) => value > 0).length >= 4),
    readers = patterns.map((own) => profile(own));
  expect(patterns.length).toBeGreaterThanOrEqual(300);
  let found = 0;
  patterns.forEach((own, k) => {
    const sixteenthMs = 60_000 / (70 + random() * 90) / 4,
      cells = own.flatMap((value, cell) => (value ? [cell] : [])),
      first = Math.floor(random() * cells.length),
      twice = [...cells, ...cells.map((cell) => cell + 16), ...cells.map((cell) => cell + 32)],
      taps = twice.slice(first, first + 2 * cells.length).map((cell) => Math.round(cell * sixteenthMs + (random() - 0.5) * 50)),
      readings = readTaps(
        taps.map((at) => at - taps[0]),
        16,
      ),
      ranked = readers.map((reader, j) => ({ j, value: tappedLikeness(reader, readings) })).sort((a, b) => b.value - a.value);
    if (ranked.slice(0, 5).some(({ j }) => j === k)) found++;
  });
  expect(found / patterns.length).toBeGreaterThanOrEqual(0.9);
});
