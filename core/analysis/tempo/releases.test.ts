import { rateHz } from '../../../test/generators/signals';
import { melFrames } from '../listen/mel';
import { lastReleases, releaseFeatureCount, releaseFeatures } from './releases';

/** Chords held from `from` to `to` seconds, that die away within `dying` seconds after; the file is `seconds` long. */
function held(notes: readonly (readonly [from: number, to: number])[], dying: number, seconds: number): Float32Array {
  const sound = new Float32Array(Math.round(seconds * rateHz));
  for (const [from, to] of notes)
    for (let i = Math.round(from * rateHz); i < sound.length; i++) {
      const after = i / rateHz - to,
        level = after > 0 ? Math.exp(-after / dying) : Math.min(1, (i / rateHz - from) / 0.01);
      for (const hz of [220, 277.2, 329.6]) sound[i] += 0.2 * level * Math.sin((2 * Math.PI * hz * i) / rateHz);
    }
  return sound;
}
const releasesOf = (sound: Float32Array, most = 3) => lastReleases(melFrames(sound, rateHz, 1), most);

test.each([0.02, 0.06, 0.1])('a last chord let go at 4 s, dying away by %f s: one of the sharpest bends is there', (dying) => {
  const found = releasesOf(
    held(
      [
        [0, 1.9],
        [2, 4],
      ],
      dying,
      5.5,
    ),
  );
  expect(Math.min(...found.map(({ seconds }) => Math.abs(seconds - 4)))).toBeLessThan(0.035);
});

test('a place after which the sound comes back is no end', () => {
  const found = releasesOf(
    held(
      [
        [0, 1],
        [2, 4],
      ],
      0.05,
      5,
    ),
    5,
  );
  expect(found.length).toBeGreaterThan(0);
  for (const { seconds } of found) expect(seconds).toBeGreaterThan(3.8);
});

test('silence and a sound that is cut in full have no release', () => {
  expect(releasesOf(new Float32Array(rateHz))).toEqual([]);
  expect(releasesOf(held([[0, 9]], 1, 2)).filter(({ seconds }) => seconds < 1.8)).toEqual([]);
});

test('a bar line at a release, or a little after it, meets it; one far away does not', () => {
  const releases = [{ seconds: 4, bend: 30 }],
    [at, late, far] = [4, 4.06, 4.5].map((end) => releaseFeatures(releases, end, 0.5));
  expect(at).toHaveLength(releaseFeatureCount);
  expect(at[0]).toBeGreaterThan(0.95);
  expect(late[0]).toBeGreaterThan(0.6);
  expect(far[0]).toBeLessThan(0.01);
  expect(far[4]).toBeCloseTo(1);
  expect(releaseFeatures([], 4, 0.5)).toEqual(new Array(releaseFeatureCount).fill(0));
});
