import {
  beatToFrame,
  beatToPosition,
  beatsPerBar,
  beatsToSeconds,
  framesPerBeat,
  loopBarBeats,
  parseMeter,
  playbackRate,
  secondsToBeats,
  tempoFromLength,
  quartersPerBeat,
} from './time';

describe('time by common practice', () => {
  test('4 bars of 4/4 at 124 in a project at 120 play at rate 0.968', () => expect(playbackRate(124, 120)).toBeCloseTo(0.968, 3));
  test('audio at 125 slowed into 85 is 147 % as long', () => expect(100 / playbackRate(125, 85)).toBeCloseTo(147.06, 1));
  test('bass at 82.440 heard at 136 runs at 1.6497', () => expect(playbackRate(82.44, 136)).toBeCloseTo(1.6497, 4));
  test('16 beats are 4 bars, 8 beats are 2', () => expect([16 / beatsPerBar('4/4'), 8 / beatsPerBar('4/4')]).toEqual([4, 2]));
  test('16 bars from bar 1 end at bar 17, beat 1; 4 bars at 5.1', () => {
    expect(beatToPosition(16 * 4, 4)).toEqual({ bar: 17, beat: 1 });
    expect(beatToPosition(4 * 4, 4)).toEqual({ bar: 5, beat: 1 });
  });
  test.each([
    [105, 4],
    [85, 2],
    [100, 8],
  ])('tempo %d comes back from the length of %d bars', (tempoBpm, bars) => {
    expect(tempoFromLength(bars * 4, (bars * 240) / tempoBpm)).toBeCloseTo(tempoBpm, 9);
  });
  test('layers every 4 bars enter at 1, 5, 9, 13', () =>
    expect([0, 16, 32, 48].map((beat) => beatToPosition(beat, 4).bar)).toEqual([1, 5, 9, 13]));
});

describe('conversions', () => {
  test('beats and seconds are inverse', () => expect(secondsToBeats(beatsToSeconds(7.25, 93.5), 93.5)).toBeCloseTo(7.25, 12));
  test('a beat at 120 is 22050 frames', () => expect(framesPerBeat(120, 44100)).toBe(22050));
  test('rounding never drifts: beat 256 at 124 is within half a frame', () =>
    expect(Math.abs(beatToFrame(256, 124, 44100) - (256 * 60 * 44100) / 124)).toBeLessThanOrEqual(0.5));
  test('meters', () => {
    expect(beatsPerBar('3/4')).toBe(3);
    expect(beatsPerBar('6/8')).toBe(2);
    expect(parseMeter('0/4')).toBeNull();
    expect(parseMeter('waltz')).toBeNull();
  });
  test.each([0, -1, NaN, Infinity])('tempo %d is refused', (tempoBpm) => expect(() => beatsToSeconds(1, tempoBpm)).toThrow(RangeError));
});

test.each([
  ['4/4', 1],
  ['3/4', 1],
  ['6/8', 1.5],
  ['12/8', 1.5],
  ['7/8', 0.5],
  ['2/2', 2],
  ['unknown', 1],
])('a counted beat of %s has %d quarters', (meter, quarters) => expect(quartersPerBeat(meter)).toBe(quarters));

test.each([
  ['bars that are known decide, for not every meter has a name', { beats: 20, bars: 4, meter: 'unknown' }, 5],
  ['bars of seven eighths', { beats: 14, bars: 4, meter: 'unknown' }, 3.5],
  ['without bars the meter does', { beats: null, bars: null, meter: '3/4' }, 3],
  ['without either it is four', { beats: null, bars: null, meter: null }, 4],
  ['a meter without a name and without bars counts as four', { beats: null, bars: null, meter: 'unknown' }, 4],
])('beats of a bar: %s', (_, loop, beats) => expect(loopBarBeats(loop)).toBe(beats));
