import { tappedTempo } from './tap-tempo';

const taps = (tempoBpm: number, count: number, from = 1000) => Array.from({ length: count }, (_, k) => from + (k * 60000) / tempoBpm);

test.each([60, 96.5, 124, 299])('even taps at %d', (tempoBpm) => expect(tappedTempo(taps(tempoBpm, 8))).toBeCloseTo(tempoBpm, 1));
test('one uneven tap counts little', () => {
  const uneven = taps(120, 9);
  uneven[4] += 60;
  expect(tappedTempo(uneven)).toBeCloseTo(120, 1);
});
test('after a pause one begins anew', () => expect(tappedTempo([...taps(60, 5), ...taps(150, 4, 20_000)])).toBeCloseTo(150, 1));
test('one tap, none, and what nobody plays say nothing', () => {
  expect(tappedTempo([])).toBeNull();
  expect(tappedTempo([5])).toBeNull();
  expect(tappedTempo([0, 10, 20])).toBeNull();
  expect(tappedTempo([0, 5000])).toBeNull();
});
