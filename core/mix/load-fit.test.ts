import { rateHz, rms, sine } from '../../test/generators/signals';
import type { FitRequest } from '../arrangement/fit-request';
import { writeSmf } from '../formats/smf/write';
import { writeWav } from '../formats/wav/write';
import { makeFitted } from './load-fit';
import { stereoPanGains } from './pan';

const request = (changes: Partial<FitRequest>): FitRequest => ({
  kind: 'lap',
  soundSha: 's',
  startFrame: 0,
  sourceFrames: rateHz,
  targetFrames: rateHz,
  shiftSemitones: 0,
  engine: 'tonal',
  onsetFrames: [],
  beats: 2,
  instrument: null,
  ...changes,
});
const wav = (...channels: Float32Array[]) => writeWav({ sampleRateHz: rateHz, channels }, 'float32');

test('a mono lap becomes two equal channels; a lap at its own length is a copy', () => {
  const tone = sine(441, 1),
    [left, right] = makeFitted(request({}), wav(tone));
  expect(left).toEqual(tone);
  expect(right).toEqual(tone);
});
test('a lap is cut from where bar 1 begins', () => {
  const file = new Float32Array(rateHz + 1000);
  file.set(sine(441, 1), 1000);
  expect(makeFitted(request({ startFrame: 1000 }), wav(file))[0]).toEqual(sine(441, 1));
});
test('the fitted length is exact', () =>
  expect(makeFitted(request({ targetFrames: 47_123 }), wav(sine(441, 1), sine(220, 1))).map((plane) => plane.length)).toEqual([
    47_123, 47_123,
  ]));
test('what plays once keeps its length, and moves like a tape', () => {
  const once = request({ kind: 'once', targetFrames: rateHz });
  expect(makeFitted(once, wav(sine(441, 1)))[0]).toHaveLength(rateHz);
  expect(makeFitted({ ...once, shiftSemitones: 12 }, wav(sine(441, 1)))[0]).toHaveLength(rateHz / 2);
});
test('notes are played at any length, exactly', () => {
  const midi = writeSmf({
    notes: [0, 1].map((startBeat) => ({ startBeat, lengthBeats: 0.5, pitch: 60, velocity: 100, channel: 0 })),
    lengthBeats: 2,
    tempoBpm: 120,
  });
  const [left] = makeFitted(request({ kind: 'notes', instrument: 'piano', targetFrames: 60_001 }), midi);
  expect(left).toHaveLength(60_001);
  const loud = (from: number) => rms(left, from, from + 2000);
  expect(loud(30_000 + 200)).toBeGreaterThan(loud(29_000 - 2000) * 1.5); // the second note begins in the middle
});
test('a broken sound says so', () => expect(() => makeFitted(request({}), new Uint8Array(10))).toThrow(/not a WAV/));

test('pan law of the Web Audio stereo panner (W3C Web Audio 1.1): centre leaves all, sides fold over', () => {
  stereoPanGains(0).forEach((gain, index) => expect(gain).toBeCloseTo([1, 0, 0, 1][index], 12));
  expect(stereoPanGains(1).map((gain) => Math.round(gain * 1000) / 1000)).toEqual([0, 0, 1, 1]);
  expect(stereoPanGains(-1).map((gain) => Math.round(gain * 1000) / 1000)).toEqual([1, 1, 0, 0]);
});
