import { createRandom } from '../../synth/random';
import { envelopeLikeness, soundDistance, sameSoundBelow, type SoundMarks } from './same-sound';

/** Hits at random places over eight seconds, as an overview of 240 columns, and a fingerprint of random words. */
function marks(seed: number): SoundMarks {
  const random = createRandom(seed),
    overview = new Uint8Array(240);
  for (let hit = 0; hit < 24; hit++) {
    const at = Math.floor(random() * 230),
      height = 80 + Math.floor(random() * 170);
    for (let k = 0; k < 8; k++) overview[at + k] = Math.max(overview[at + k], height * 0.7 ** k);
  }
  return { overview, fingerprint: Uint32Array.from({ length: 86 }, () => Math.floor(random() * 2 ** 32) || 1), lengthSeconds: 8 };
}
const one = marks(1),
  other = marks(2);
/** A copy with so much silence in front; columns are counted over a longer file then. */
function late(of: SoundMarks, columns: number): SoundMarks {
  const overview = new Uint8Array(240 + columns);
  overview.set(of.overview as Uint8Array, columns);
  return { ...of, overview, lengthSeconds: (of.lengthSeconds * (240 + columns)) / 240 };
}

test('a copy is at no distance, softer or a little later at next to none, a stranger far', () => {
  expect(soundDistance(one, one)).toBeCloseTo(0, 5);
  const softer = { ...one, overview: Array.from(one.overview, (value) => Math.round(value * 0.5)) };
  expect(soundDistance(one, softer)).toBeLessThan(0.02);
  expect(soundDistance(one, late(one, 3))).toBeLessThan(sameSoundBelow);
  expect(soundDistance(one, other)).toBeGreaterThan(0.6);
});
test('the same notes in other strokes, and the same strokes with other notes, are siblings and no copies', () => {
  expect(soundDistance(one, { ...one, overview: other.overview })).toBeGreaterThan(sameSoundBelow);
  expect(soundDistance(one, { ...one, fingerprint: other.fingerprint })).toBeGreaterThan(sameSoundBelow);
});
test('even sounds have no shape to compare, and are alike when they are as loud', () => {
  const even = (level: number): SoundMarks => ({ ...one, overview: new Uint8Array(240).fill(level) });
  expect(envelopeLikeness(even(100), even(100))).toBe(1);
  expect(envelopeLikeness(even(100), even(20))).toBe(0);
});
test('too little to tell is told apart from no', () => {
  expect(soundDistance(one, { ...one, fingerprint: one.fingerprint.slice(0, 3) })).toBeNull();
});
