import {
  beatFrames,
  frameOfRunningBeat,
  nextStart,
  passesBetween,
  projectBeat,
  runningBeatAt,
  wholeRange,
  type Transport,
} from './transport';

const transport: Transport = {
  originFrame: 1000.4,
  originBeat: 4,
  tempoBpm: 124,
  barBeats: 4,
  range: { startBeat: 0, endBeat: 16 },
  sampleRateHz: 44100,
};

test.each([
  [0, null],
  [16, 16],
  [16.0000001, 16],
  [16.1, 20],
] as const)('a piece that ends at beat %d goes round to the end of its last bar', (end, endBeat) =>
  expect(wholeRange(end, 4)).toEqual(endBeat === null ? null : { startBeat: 0, endBeat }),
);

describe('transport', () => {
  test('beat and frame are inverse', () => expect(runningBeatAt(transport, frameOfRunningBeat(transport, 77.3))).toBeCloseTo(77.3, 9));
  test('the playhead goes round in the range', () => {
    expect(projectBeat(transport, 15.9)).toBeCloseTo(15.9);
    expect(projectBeat(transport, 16)).toBe(0);
    expect(projectBeat(transport, 16 * 5 + 3)).toBe(3);
    expect(projectBeat({ ...transport, originBeat: 20 }, 40)).toBe(40);
  });
  test('passes join without gap, the first from where playing began', () => {
    const passes = passesBetween(transport, 4, 60);
    expect(passes.map((pass) => [pass.fromBeat, pass.toBeat, pass.shiftBeats])).toEqual([
      [4, 16, 0],
      [16, 32, 16],
      [32, 48, 32],
      [48, 64, 48],
    ]);
    expect(passesBetween(transport, 17, 18).map((pass) => pass.index)).toEqual([1]);
    expect(passesBetween({ ...transport, range: null }, 100, 101)).toHaveLength(1);
  });
  test.each([
    ['bar', 4.1, 8],
    ['bar', 8, 8],
    ['beat', 4.1, 5],
    ['range', 4.1, 16],
    ['range', 16.2, 32],
    ['now', 4.1, 4.1],
  ] as const)('start on %s from %d is %d', (startOn, from, wanted) => expect(nextStart(transport, from, startOn)).toBe(wanted));
  test('a beat at 124 is 21338.7 frames', () => expect(beatFrames(transport)).toBeCloseTo(21338.71, 2));
});
