import { bentMap, straightMap } from './time-map';

test('a straight map is one factor, both ways, over many cycles', () => {
  const map = straightMap(1000, 1250);
  expect(map.toTarget(400)).toBe(500);
  expect(map.toSource(500)).toBe(400);
  expect(map.toTarget(-1000)).toBe(-1250);
  expect(() => straightMap(0, 5)).toThrow(RangeError);
});

describe('a bent map', () => {
  // Four beats of 1,000 frames, the second 60 late, the third 40 early.
  const map = bentMap(4000, 8000, [0, 1060, 1960, 3000]);
  test('brings each mark onto its step', () =>
    [0, 1060, 1960, 3000].forEach((frame, k) => expect(map.toTarget(frame)).toBeCloseTo(k * 2000, 9)));
  test('is its own inverse, in this cycle and in others', () => {
    for (let frame = -5000; frame < 9000; frame += 137) expect(map.toSource(map.toTarget(frame))).toBeCloseTo(frame, 6);
  });
  test('a cycle further is a cycle further', () => expect(map.toTarget(1060 + 4000) - map.toTarget(1060)).toBeCloseTo(8000, 9));
  test('never runs backwards', () => {
    for (let frame = -100; frame < 4100; frame++) expect(map.toTarget(frame + 1)).toBeGreaterThan(map.toTarget(frame));
  });
  test('a first mark off frame 0 moves the whole cycle', () =>
    expect(bentMap(4000, 4000, [40, 1040, 2040, 3040]).toTarget(40)).toBeCloseTo(0, 9));
  test('marks that do not ascend are refused; with fewer than two it is straight', () => {
    expect(() => bentMap(4000, 4000, [0, 2000, 1000])).toThrow(RangeError);
    expect(() => bentMap(4000, 4000, [0, 4100])).toThrow(RangeError);
    expect(bentMap(1000, 2000, []).toTarget(10)).toBe(20);
  });
});
