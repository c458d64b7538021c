import { hits, rateHz } from '../../../test/generators/signals';
import { noteToHz } from '../../units/pitch';
import { detectOnsets, hitStrengths } from './onsets';

const seconds = (frames: readonly number[]) => frames.map((frame) => frame / rateHz);
/** A voice of six harmonics with a soft start and end. */
function tone(pitch: number, from: number, length: number, whole: number, attackFrames = 200): Float32Array {
  const out = new Float32Array(Math.round(whole * rateHz)),
    turn = (2 * Math.PI * noteToHz(pitch)) / rateHz;
  for (let i = 0; i < length * rateHz; i++) {
    const at = Math.round(from * rateHz) + i;
    if (at >= out.length) break;
    const envelope = Math.min(1, i / attackFrames) * Math.min(1, (length * rateHz - i) / 2000);
    for (let harmonic = 1; harmonic <= 6; harmonic++) out[at] += ((0.3 * envelope) / harmonic) * Math.sin(turn * harmonic * i);
  }
  return out;
}
const sum = (...sounds: Float32Array[]): Float32Array => sounds[0].map((_, i) => sounds.reduce((all, sound) => all + sound[i], 0));

test('hits are found to the millisecond', () => {
  const at = [0.1, 0.35, 0.6, 0.7, 1.2, 1.7];
  const found = seconds(detectOnsets([hits(at, 2)], rateHz));
  expect(found).toHaveLength(at.length);
  found.forEach((value, k) => expect(Math.abs(value - at[k])).toBeLessThan(0.0015));
});
test('quiet hits among loud ones, to 30 dB below', () => {
  const loud = hits([0.1, 1.1], 2),
    soft = hits([0.6, 1.6], 2, 5).map((value) => value * 0.032);
  expect(detectOnsets([sum(loud, soft)], rateHz)).toHaveLength(4);
});
test.each([24, 28, 33, 40, 52, 64])('a held note is one hit, however low (MIDI %i)', (pitch) =>
  expect(detectOnsets([tone(pitch, 0.1, 1.2, 1.5)], rateHz)).toHaveLength(1),
);
test('each note of a bass line is a hit', () => {
  const at = [0.05, 0.55, 0.8, 1.3],
    line = sum(...at.map((from, k) => tone([28, 31, 33, 28][k], from, 0.2, 2)));
  const found = seconds(detectOnsets([line], rateHz));
  expect(found).toHaveLength(at.length);
  found.forEach((value, k) => expect(Math.abs(value - at[k])).toBeLessThan(0.006));
});
test('a kick of nothing but lows is found', () => {
  const kick = new Float32Array(2 * rateHz);
  for (const from of [0.2, 0.7, 1.2])
    for (let i = 0, phase = 0; i < 0.4 * rateHz; i++) {
      phase += (2 * Math.PI * (45 + 60 * Math.exp(-i / 800))) / rateHz;
      kick[Math.round(from * rateHz) + i] +=
        0.8 * Math.min(1, i / 60) * Math.min(1, (0.4 * rateHz - i) / 3000) * Math.exp(-i / 6000) * Math.sin(phase);
    }
  const found = seconds(detectOnsets([kick], rateHz));
  expect(found).toHaveLength(3);
  found.forEach((value, k) => expect(Math.abs(value - [0.2, 0.7, 1.2][k])).toBeLessThan(0.005));
});
test('a hit on one side only is a hit', () => {
  const left = hits([0.5], 1);
  expect(detectOnsets([left, new Float32Array(left.length)], rateHz)).toHaveLength(1);
});
test('silence, DC and next to nothing have none', () => {
  expect(detectOnsets([new Float32Array(rateHz)], rateHz)).toEqual([]);
  expect(detectOnsets([new Float32Array(3)], rateHz)).toEqual([]);
  expect(detectOnsets([new Float32Array(rateHz).fill(0.5)], rateHz).length).toBeLessThanOrEqual(1);
});
test('how hard hits are is told against the hardest', () => {
  const at = [0.1, 0.6, 1.1],
    sound = sum(...at.map((from, k) => hits([from], 2, 7).map((value) => value * [1, 0.5, 0.25][k]))),
    strengths = hitStrengths(sound, rateHz, detectOnsets([sound], rateHz));
  [1, 0.5, 0.25].forEach((wanted, k) => expect(Math.abs(strengths[k] - wanted)).toBeLessThan(0.08));
  expect(hitStrengths(sound, rateHz, [])).toEqual([]);
});
