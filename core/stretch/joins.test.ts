import { createRandom } from '../synth/random';
import { joinSetting, layJoins, type Join } from './joins';

const frames = 44100,
  random = createRandom(4);
/** A hit that dies away over noise, with room around it for the comparison. */
const guide = Float32Array.from({ length: frames + 4000 }, (_, i) => Math.sin(i * 0.11) * Math.exp(-i / 9000) + 0.02 * (random() - 0.5));
const lay = (source: number, target: number): Join[] => layJoins(guide, 0, source, target, joinSetting);

test('as long as it was: read as it is', () => expect(lay(20000, 20000)).toEqual([{ at: 0, offset: 0, fadeFrames: 0, gainRatio: 1 }]));

test.each([
  [20000, 16000],
  [20000, 19950],
  [20000, 20400],
  [20000, 26000],
  [20000, 40000],
  [3000, 2000],
  [3000, 5000],
])('%d frames to last %d: begins at the beginning, ends at the end, and reads nothing outside', (source, target) => {
  const joins = lay(source, target);
  expect(joins[0]).toMatchObject({ at: 0, offset: 0 });
  expect(joins.at(-1)?.offset).toBe(source - target);
  joins.forEach((join, k) => {
    const until = joins[k + 1]?.at ?? target;
    expect(join.at).toBeLessThan(until);
    expect(join.at + join.offset).toBeGreaterThanOrEqual(0);
    // What a join still reads while the next one fades in lies inside too.
    expect(until - 1 + join.offset).toBeLessThan(source + joinSetting.grainFrames);
    expect(join.gainRatio).toBeGreaterThan(0);
    expect(join.gainRatio).toBeLessThanOrEqual(1);
  });
});

test('the attack is never touched, nor what leads into the next hit', () => {
  const joins = lay(20000, 26000);
  expect(joins[1].at).toBeGreaterThanOrEqual(joinSetting.headFrames);
  expect((joins.at(-1) as Join).at + (joins.at(-1) as Join).fadeFrames).toBeLessThanOrEqual(26000 - joinSetting.endFrames);
});

test('what is made longer goes on dying at its own pace: the later, the quieter', () => {
  const gains = lay(20000, 40000)
    .slice(1, -1)
    .map(({ gainRatio }) => gainRatio);
  expect(gains.length).toBeGreaterThan(2);
  expect(gains.at(-1)).toBeLessThan(gains[0]);
  const held = layJoins(guide, 0, 20000, 40000, { ...joinSetting, keepsDecay: false });
  expect(held.every(({ gainRatio }) => gainRatio === 1)).toBe(true);
});

test('a steady tone is joined where it goes on as it would have: half a period off is never chosen', () => {
  const period = 100,
    tone = Float32Array.from({ length: 60000 }, (_, i) => Math.sin((2 * Math.PI * i) / period)),
    joins = layJoins(tone, 0, 30000, 36000, { ...joinSetting, keepsDecay: false }).slice(1, -1);
  for (const { offset } of joins) {
    const away = Math.abs(offset / period - Math.round(offset / period));
    expect(away).toBeLessThan(0.06);
  }
});
