import { passFilter, filterSignal } from '../../dsp/biquad';
import { createRandom } from '../../synth/random';
import { noteToHz } from '../../units/pitch';
import { toneFrames } from '../listen/tones';
import { rateHz } from '../../../test/generators/signals';
import { compareFingerprints, fewestFrames, fingerprint, sameBelow } from './fingerprint';

/** Six seconds of a player that strikes random notes of a scale over a soft noise. */
function piece(seed: number): Float32Array {
  const random = createRandom(seed),
    out = new Float32Array(6 * rateHz);
  for (let beat = 0; beat < 24; beat++) {
    const hz = noteToHz(48 + [0, 2, 3, 5, 7, 8, 10][Math.floor(random() * 7)] + 12 * Math.floor(random() * 3)),
      from = beat * 0.25 * rateHz;
    for (let harmonic = 1; harmonic <= 4; harmonic++) {
      // A turning pointer that shrinks: cheaper than a sine a frame.
      const turn = (2 * Math.PI * hz * harmonic) / rateHz,
        shrink = Math.exp(-1 / (0.2 * rateHz)),
        [cos, sin] = [Math.cos(turn) * shrink, Math.sin(turn) * shrink];
      let [x, y] = [0.2 / harmonic, 0];
      for (let i = 0; i < 0.6 * rateHz && from + i < out.length; i++) {
        out[from + i] += y;
        [x, y] = [x * cos - y * sin, x * sin + y * cos];
      }
    }
  }
  return out.map((value) => value + 0.002 * (random() - 0.5));
}
const print = (sound: Float32Array) => fingerprint(toneFrames(sound, rateHz, 1));
const original = piece(1);
let kept: Uint32Array = new Uint32Array(0);
beforeAll(() => {
  kept = print(original);
});
const differing = (sound: Float32Array) => compareFingerprints(kept, print(sound))?.differing ?? 1;

test('32 bits each 93 ms', () => {
  expect(kept.length).toBe(Math.ceil(original.length / 4096) - 1);
  expect([...kept].filter((word) => word !== 0).length).toBeGreaterThan(kept.length * 0.9);
});
test('the same sound has the same print, louder or softer', () => {
  expect(differing(original)).toBe(0);
  expect(differing(original.map((value) => value * 0.1))).toBeLessThan(0.01);
});
test.each<[string, (sound: Float32Array) => Float32Array]>([
  ['cut 137 ms later', (sound) => sound.slice(Math.round(0.137 * rateHz))],
  ['cut to its middle three seconds', (sound) => sound.slice(rateHz, 4 * rateHz)],
  ['with silence in front', (sound) => Float32Array.from([...new Float32Array(0.4 * rateHz), ...sound])],
  ['dull', (sound) => Float32Array.from(filterSignal(sound, passFilter('low', 1500, rateHz)))],
  ['clipped', (sound) => sound.map((value) => Math.max(-0.2, Math.min(0.2, value)))],
  [
    'under noise 20 dB below',
    (sound) => {
      const random = createRandom(8);
      return sound.map((value) => value + 0.03 * (random() - 0.5));
    },
  ],
  ['of eight bits', (sound) => sound.map((value) => Math.round(value * 100) / 100)],
])('known again %s', (_, change) => expect(differing(change(original))).toBeLessThan(sameBelow));
test('where the cut was is told', () => {
  const match = compareFingerprints(kept, print(original.slice(8 * 4096)));
  expect(match?.offsetFrames).toBe(8);
});
test('other players of the same scale and beat are strangers', () => {
  for (let seed = 2; seed < 8; seed++) expect(differing(piece(seed))).toBeGreaterThan(sameBelow);
});
test('too little proves nothing', () => {
  expect(compareFingerprints(kept, kept.slice(0, fewestFrames - 1))).toBeNull();
  expect(compareFingerprints(kept, new Uint32Array(60))).toBeNull();
});
