import { TruePeak } from '../../dsp/true-peak';
import { rateHz } from '../../../test/generators/signals';
import { createRandom } from '../../synth/random';
import { LevelMeter } from './level-meter';
import { measureLevels } from './levels';

const random = createRandom(4);
/** Seven seconds of two sides that swell, clip once and lean to one side. */
const sides = [0.8, 0.5].map((gain) =>
  Float32Array.from({ length: 7 * rateHz }, (_, i) =>
    i > 100_000 && i < 100_040
      ? 1
      : gain * (0.3 + 0.7 * Math.sin(i / 60_000) ** 2) * (Math.sin(i / 17) * 0.7 + 0.1 * (random() - 0.5)) + 0.002,
  ),
);
const inPieces = (lengthFrames: number) => {
  const meter = new LevelMeter(2, rateHz);
  for (let at = 0; at < sides[0].length; at += lengthFrames) meter.push(sides.map((side) => side.subarray(at, at + lengthFrames)));
  return meter.finish();
};

test.each([997, 4096, 65_536])('a sound in pieces of %i frames has the levels of the whole', (lengthFrames) => {
  const whole = measureLevels(sides, rateHz),
    pieces = inPieces(lengthFrames);
  expect(Object.keys(pieces).sort()).toEqual(Object.keys(whole).sort());
  for (const [name, value] of Object.entries(whole)) expect(pieces[name as keyof typeof pieces]).toBeCloseTo(value as number, 6);
});
test('the curve between two pieces is looked at too', () => {
  // A sine at a quarter of the rate, sampled beside its tops: the top between two frames lies 3 dB above them.
  const sine = Float32Array.from({ length: 4000 }, (_, i) => 0.5 * Math.sin((Math.PI / 2) * i + Math.PI / 4));
  const meter = new LevelMeter(1, rateHz);
  for (let at = 0; at < sine.length; at += 8) meter.push([sine.subarray(at, at + 8)]);
  expect(meter.finish().truePeakDbtp).toBeCloseTo(20 * Math.log10(0.5), 0);
  expect(20 * Math.log10(meter.samplePeak)).toBeCloseTo(20 * Math.log10(0.5) - 3.01, 1);
});
test('nothing pushed, nothing claimed', () =>
  expect(new LevelMeter(2, rateHz).finish()).toMatchObject({
    integratedLufs: null,
    truePeakDbtp: null,
    noiseFloorDbfs: null,
    clippedRuns: 0,
  }));

test.each([0.9, 3, 40])('wherever the loudest curve lies, soft stretches around it hide nothing of it (%d dB below)', (softerDb) => {
  // Places beside the borders of the stretches that are passed over, and far from them.
  for (const at of [9, 505, 511, 513, 517, 1020, 2000]) {
    const softer = 10 ** (-softerDb / 20),
      plane = Float32Array.from({ length: 2400 }, (_, i) => 0.6 * softer * Math.sin((Math.PI / 2) * i + Math.PI / 4));
    for (let i = at - 3; i < at + 4; i++) plane[i] = 0.6 * Math.sin((Math.PI / 2) * i + Math.PI / 4);
    const meter = new LevelMeter(1, 44100),
      follower = new TruePeak();
    meter.push([plane]);
    expect(meter.finish().truePeakDbtp).toBeCloseTo(20 * Math.log10(follower.next(plane)), 5);
  }
});
