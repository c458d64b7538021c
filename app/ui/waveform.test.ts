import { decodeOverview, wavePaths } from './waveform';

const bars = (path: string) =>
  [...path.matchAll(/M(\d+) ([\d.-]+)v([\d.-]+)/g)].map(([, x, y, height]) => [Number(x), Number(y), Number(height)]);

test('an overview travels as base64', () => {
  expect([...decodeOverview(btoa(String.fromCharCode(0, 128, 255)))]).toEqual([0, 128, 255]);
});

test('without beats every column is a plain bar, in the middle of the height', () => {
  const { plain, strong } = wavePaths(new Uint8Array(240).fill(255), 0, 4);
  expect(strong).toBe('');
  expect(bars(plain)).toHaveLength(66);
  for (const [, y, height] of bars(plain)) expect(y + height / 2).toBeCloseTo(16);
});

test('two bars of four show two downbeats, taller than what is silent, with air at the other beats', () => {
  const { plain, strong } = wavePaths(new Uint8Array(240), 8, 4);
  expect(bars(strong).map(([x]) => x)).toEqual([0, 66]);
  for (const [, , height] of bars(strong)) expect(height).toBeGreaterThan(20);
  expect(bars(plain)).toHaveLength(66 - 8);
});

test('bars of seven eighths show their own downbeats', () => {
  const { strong } = wavePaths(new Uint8Array(240), 7, 3.5);
  expect(bars(strong).map(([x]) => x)).toEqual([0, 66]);
});

test('a louder sound is a taller bar', () => {
  const heights = [40, 120, 250].map((level) => bars(wavePaths(new Uint8Array(240).fill(level), 0, 4).plain)[0][2]);
  expect(heights[0]).toBeLessThan(heights[1]);
  expect(heights[1]).toBeLessThan(heights[2]);
});
