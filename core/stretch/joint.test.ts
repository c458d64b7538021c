import { bendsInside, clicksAtJoint, isJointSharp, sharpestJoint } from './joint';

const frames = 8192,
  wave = (periods: number) => Float32Array.from({ length: frames }, (_, i) => Math.cos((2 * Math.PI * periods * i) / frames)),
  hit = Float32Array.from({ length: frames }, (_, i) => Math.cos(i * 0.08) * Math.exp(-i / 500));

test('a cycle of whole periods bends at its joint as it does inside', () => {
  expect(isJointSharp(wave(40))).toBe(false);
  expect(sharpestJoint(wave(40))).toBeLessThanOrEqual(1.01 * Math.max(...bendsInside(wave(40))));
});

test('half a period too many is a click', () => {
  expect(isJointSharp(wave(40.5))).toBe(true);
  expect(clicksAtJoint(wave(40.5))).toBe(true);
});

test('a hit on the first frame is sharp, and no click', () => {
  expect(isJointSharp(hit)).toBe(true);
  expect(clicksAtJoint(hit)).toBe(false);
});

test('silence and a cycle of a few frames do nothing', () => {
  expect(clicksAtJoint(new Float32Array(1000))).toBe(false);
  expect(isJointSharp(Float32Array.of(0.5))).toBe(false);
});

test('the bend of a parabola is 0, that of a cube constant', () => {
  expect(Math.max(...bendsInside(Float32Array.from({ length: 20 }, (_, i) => i * i)))).toBe(0);
  expect([...bendsInside(Float32Array.from({ length: 8 }, (_, i) => i ** 3))]).toEqual([6, 6, 6, 6, 6]);
});
