import { rateHz, rms, sine, zeroCrossingHz } from '../../test/generators/signals';
import type { FitRequest } from '../arrangement/fit-request';
import { writeSmf } from '../formats/smf/write';
import { writeWav } from '../formats/wav/write';
import { renderFitted } from './render-fitted';
import { stereoPanGains } from './pan';

const request = (changes: Partial<FitRequest>): FitRequest => ({
  kind: 'cycle',
  soundSha: 's',
  startFrame: 0,
  sourceFrames: rateHz,
  targetFrames: rateHz,
  shiftSemitones: 0,
  stretchMode: 'tonal',
  onsetFrames: [],
  beats: 2,
  instrument: null,
  ...changes,
});
const wav = (...channels: Float32Array[]) => writeWav({ sampleRateHz: rateHz, channels }, 'float32');

test('a mono cycle becomes two equal channels; a cycle at its own length is a copy', () => {
  const tone = sine(441, 1),
    [left, right] = renderFitted(request({}), wav(tone));
  expect(left).toEqual(tone);
  expect(right).toEqual(tone);
});
test('a cycle is cut from where bar 1 begins', () => {
  const file = new Float32Array(rateHz + 1000);
  file.set(sine(441, 1), 1000);
  expect(renderFitted(request({ startFrame: 1000 }), wav(file))[0]).toEqual(sine(441, 1));
});
test('the fitted length is exact', () =>
  expect(renderFitted(request({ targetFrames: 47_123 }), wav(sine(441, 1), sine(220, 1))).map((plane) => plane.length)).toEqual([
    47_123, 47_123,
  ]));
const once = request({ kind: 'once', sourceFrames: rateHz, targetFrames: rateHz });
test.each(['tonal', 'voice', 'percussive', 'mixed'] as const)('what plays once keeps its length when it is moved, by %s', (stretchMode) => {
  const [left] = renderFitted({ ...once, stretchMode, shiftSemitones: 12 }, wav(sine(441, 1)));
  expect(left).toHaveLength(rateHz);
  expect(zeroCrossingHz(left.subarray(4410, -4410))).toBeCloseTo(882, 0);
});
test('on a tape the pitch goes with the length it is asked for', () => {
  const [left] = renderFitted({ ...once, stretchMode: 'plain', shiftSemitones: 12, targetFrames: rateHz / 2 }, wav(sine(441, 1)));
  expect(left).toHaveLength(rateHz / 2);
  expect(zeroCrossingHz(left.subarray(2000, -2000))).toBeCloseTo(882, 0);
});
test('with nothing to do it is a copy', () => expect(renderFitted(once, wav(sine(441, 1)))[0]).toEqual(sine(441, 1)));
test('its end does not reach round to its start, nor its start to its end', () => {
  const late = new Float32Array(rateHz);
  late.set(sine(500, 0.1, 0.9), rateHz - 4410);
  for (const stretchMode of ['tonal', 'voice', 'mixed', 'percussive'] as const) {
    const [left] = renderFitted({ ...once, stretchMode, shiftSemitones: 5, onsetFrames: [rateHz - 4410] }, wav(late));
    expect(rms(left, 0, rateHz - 8820)).toBeLessThan(1e-4);
    const [early] = renderFitted({ ...once, stretchMode, shiftSemitones: -5, onsetFrames: [0] }, wav(late.slice().reverse()));
    expect(rms(early, rateHz / 2)).toBeLessThan(1e-4);
  }
});
test('notes are played at any length, exactly', () => {
  const midi = writeSmf({
    notes: [0, 1].map((startBeat) => ({ startBeat, lengthBeats: 0.5, pitch: 60, velocity: 100, channel: 0 })),
    lengthBeats: 2,
    tempoBpm: 120,
  });
  const [left] = renderFitted(request({ kind: 'notes', instrument: 'piano', targetFrames: 60_001 }), midi);
  expect(left).toHaveLength(60_001);
  const loud = (from: number) => rms(left, from, from + 2000);
  expect(loud(30_000 + 200)).toBeGreaterThan(loud(29_000 - 2000) * 1.5); // the second note begins in the middle
});
test('a MIDI phrase or single note sounds, at its own tempo or another, and is not led round its end', () => {
  const midi = writeSmf({
    notes: [{ startBeat: 1, lengthBeats: 1, pitch: 60, velocity: 100, channel: 0 }],
    lengthBeats: 4,
    tempoBpm: 120,
  });
  for (const ratio of [1, 0.8]) {
    const targetFrames = 88200 * ratio,
      [left] = renderFitted(request({ kind: 'notes-once', instrument: 'piano', beats: 0, sourceFrames: 88200, targetFrames }), midi);
    expect(left).toHaveLength(targetFrames);
    expect(rms(left, 0, 22050 * ratio - 10)).toBe(0);
    expect(rms(left, 22050 * ratio, 22050 * ratio + 2000)).toBeGreaterThan(0.01);
  }
});
test('a broken sound says so', () => expect(() => renderFitted(request({}), new Uint8Array(10))).toThrow(/not a WAV/));

test('pan law of the Web Audio stereo panner (W3C Web Audio 1.1): centre leaves all, sides fold over', () => {
  stereoPanGains(0).forEach((gain, index) => expect(gain).toBeCloseTo([1, 0, 0, 1][index], 12));
  expect(stereoPanGains(1).map((gain) => Math.round(gain * 1000) / 1000)).toEqual([0, 0, 1, 1]);
  expect(stereoPanGains(-1).map((gain) => Math.round(gain * 1000) / 1000)).toEqual([1, 1, 0, 0]);
});
