import { latencyFrames, takeOf } from './take';

const block = (frame: number, value: number, length = 4) => ({ frame, samples: new Float32Array(length).fill(value) });

test('a take begins at its frame: what came before is left away', () =>
  expect([...takeOf([block(0, 1), block(4, 2), block(8, 3)], 6)]).toEqual([2, 2, 3, 3, 3, 3]));
test('a block that is missing is silence, and what follows lies where it was played', () =>
  expect([...takeOf([block(0, 1), block(8, 3)], 0)]).toEqual([1, 1, 1, 1, 0, 0, 0, 0, 3, 3, 3, 3]));
test('before its first block it is silent; without blocks it is empty', () => {
  expect([...takeOf([block(4, 1)], 2)]).toEqual([0, 0, 1, 1, 1, 1]);
  expect(takeOf([], 10)).toHaveLength(0);
  expect(takeOf([block(0, 1)], 10)).toHaveLength(0);
});
test('latency is that of the way out and of the way in; a browser that says nothing has none', () => {
  expect(latencyFrames({ baseLatency: 0.01, outputLatency: 0.02, sampleRate: 48_000 }, 0.005)).toBe(1680);
  expect(latencyFrames({ sampleRate: 44_100 } as AudioContext)).toBe(0);
});
