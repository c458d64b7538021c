import { stereoPanGains } from './pan';

test('in the middle each side stays where it is (W3C Web Audio 1.1, StereoPannerNode)', () => {
  const [leftToLeft, rightToLeft, leftToRight, rightToRight] = stereoPanGains(0);
  expect([leftToLeft, rightToLeft, leftToRight, rightToRight].map((value) => Math.round(value * 1e9) / 1e9)).toEqual([1, 0, 0, 1]);
});

test.each([-1, 1])('all the way to %d one side holds both, the other nothing', (pan) => {
  const [leftToLeft, rightToLeft, leftToRight, rightToRight] = stereoPanGains(pan),
    kept = pan < 0 ? [leftToLeft, rightToLeft] : [leftToRight, rightToRight],
    lost = pan < 0 ? [leftToRight, rightToRight] : [leftToLeft, rightToLeft];
  for (const value of kept) expect(value).toBeCloseTo(1, 9);
  expect(lost[pan < 0 ? 0 : 1]).toBeCloseTo(0, 9);
});

test.each([-0.8, -0.3, 0.25, 0.6])('at %d the side that moves keeps its power', (pan) => {
  const [leftToLeft, rightToLeft, leftToRight, rightToRight] = stereoPanGains(pan),
    moved = pan < 0 ? [rightToLeft, rightToRight] : [leftToLeft, leftToRight];
  expect(moved[0] ** 2 + moved[1] ** 2).toBeCloseTo(1, 9);
  expect(Math.max(leftToLeft, rightToLeft, leftToRight, rightToRight)).toBeLessThanOrEqual(1 + 1e-9);
});
