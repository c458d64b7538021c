import { ringSeconds } from '../arrangement/pattern/rings';
import { families, instrumentById, instruments, type Family } from '../theory/instruments';
import { rangeOf } from '../theory/ranges';
import { noteToHz } from '../units/pitch';
import { hasOwnVoice, noteVoice, noteVoices } from './note-voices';
import { playRows } from './play-rows';
import { createRandom } from './random';

const rateHz = 44100,
  play = (id: string, note: number, { velocity = 0.8, heldSeconds = 0.6, random = createRandom(1) } = {}) =>
    noteVoice(id)({ hz: noteToHz(note), velocity, heldSeconds, rateHz, tone: 0.5, random }),
  middleOf = (id: string) => Math.round((rangeOf(id)[0] + rangeOf(id)[1]) / 2),
  rms = (samples: Float32Array, from: number, to: number) =>
    Math.sqrt(samples.slice(from, to).reduce((sum, value) => sum + value * value, 0) / Math.max(1, Math.min(to, samples.length) - from)),
  db = (ratio: number) => 20 * Math.log10(ratio + 1e-12),
  ids = Object.keys(noteVoices),
  isEffect = (id: string) => instrumentById(id)?.family === 'fx';

const looked = 16_384,
  blackmanHarris = Float64Array.from({ length: looked }, (_, i) => {
    const x = (2 * Math.PI * i) / looked;
    return 0.35875 - 0.48829 * Math.cos(x) + 0.14128 * Math.cos(2 * x) - 0.01168 * Math.cos(3 * x);
  });

/** Strength of a frequency in a stretch of so many frames, under a Blackman–Harris window; by turning a vector instead of two sines a frame. */
function strengthAt(samples: Float32Array, hz: number): number {
  const c = Math.cos((2 * Math.PI * hz) / rateHz),
    s = Math.sin((2 * Math.PI * hz) / rateHz);
  let re = 0,
    im = 0,
    x = 1,
    y = 0;
  for (let i = 0; i < looked && i < samples.length; i++) {
    const value = samples[i] * blackmanHarris[i];
    re += value * x;
    im += value * y;
    [x, y] = [x * c - y * s, x * s + y * c];
  }
  return Math.hypot(re, im) / looked;
}

test('every family has a voice of its own', () => {
  // Drums and percussion are the kit’s; a mix is played by nobody.
  const played = (Object.keys(families) as Family[]).filter((family) => !['drums', 'percussion', 'mix'].includes(family));
  for (const family of played) expect(instruments.some(({ id, family: of }) => of === family && hasOwnVoice(id))).toBe(true);
  expect(ids.filter((id) => !instrumentById(id))).toEqual([]);
});
describe.each(ids)('%s', (id) => {
  const [low, high] = rangeOf(id);
  test('is finite, audible and bounded over its whole range, and softer where it is struck softly', () => {
    for (const note of [low, middleOf(id), high]) {
      const sound = play(id, note);
      expect(sound.every(Number.isFinite)).toBe(true);
      const peak = Math.max(...sound.map(Math.abs));
      expect(peak).toBeGreaterThan(0.02);
      expect(peak).toBeLessThan(1.6);
      expect(rms(play(id, note, { velocity: 0.3 }), 0, 20_000)).toBeLessThan(rms(sound, 0, 20_000));
    }
  });
  test('has the pitch that is asked for: nothing within an octave below its fundamental is stronger than it', () => {
    // Effects are noise, and slide.
    if (isEffect(id)) return;
    const note = middleOf(id),
      hz = noteToHz(note),
      sound = play(id, note).slice(3000, 3000 + looked),
      fundamental = [1, 2, 3].map((harmonic) => strengthAt(sound, hz * harmonic)).reduce((a, b) => Math.max(a, b));
    for (const off of [0.8, 0.85, 1.18, 1.25]) expect(db(strengthAt(sound, hz * off) / fundamental)).toBeLessThan(-14);
  });
  test('dies away within the time that is left for it', () => {
    const heldSeconds = 0.3,
      sound = play(id, middleOf(id), { heldSeconds }),
      end = Math.round((heldSeconds + ringSeconds(id, false)) * rateHz),
      loudest = rms(sound, 0, 8000);
    if (sound.length > end) expect(db(rms(sound, end, end + 2000) / loudest)).toBeLessThan(-40);
    expect(Math.abs(sound[sound.length - 1])).toBeLessThan(0.02);
  });
});
test('none is so loud or so soft beside the others that it could not be placed: the loudest 300 ms of a middle note, within 15 dB', () => {
  const loudest = ids
    .filter((id) => !isEffect(id))
    .map((id) => {
      const sound = play(id, middleOf(id));
      return { id, level: Math.max(...[0, 4410, 8820, 13_230].map((from) => db(rms(sound, from, from + 13_230)))) };
    });
  loudest.sort((a, b) => a.level - b.level);
  expect([loudest[0], loudest[loudest.length - 1], loudest[loudest.length - 1].level - loudest[0].level < 15]).toEqual([
    loudest[0],
    loudest[loudest.length - 1],
    true,
  ]);
});
test('of what is drawn by harmonics nothing folds back above −60 dB', () => {
  for (const id of [
    'violin',
    'cello',
    'strings',
    'trumpet',
    'brass',
    'tuba',
    'oboe',
    'clarinets',
    'sax',
    'bassoon',
    'accordion',
    'pan-flute',
  ]) {
    const note = rangeOf(id)[1],
      hz = noteToHz(note),
      // Nothing by chance: no breath, no bow.
      sound = play(id, note, { heldSeconds: 1, random: () => 0.5 }).slice(4000, 4000 + looked),
      strongest = Math.max(...[1, 2, 3, 4].map((harmonic) => strengthAt(sound, hz * harmonic)));
    for (let harmonic = 1; harmonic * hz < 18_000; harmonic++)
      for (const between of [0.35, 0.65]) expect(db(strengthAt(sound, hz * (harmonic + between)) / strongest)).toBeLessThan(-60);
  }
});
describe('rows of notes', () => {
  const request = (noteRows: number[], changes = {}) => ({
    noteRows,
    isDrums: false,
    instrument: 'piano',
    targetFrames: 44_100,
    ...changes,
  });
  test('the same rows give the same samples; one more note changes nothing before it', () => {
    const one = playRows(request([0, 10_000, 60, 90])),
      two = playRows(request([0, 10_000, 60, 90, 22_050, 10_000, 64, 90]));
    expect(playRows(request([0, 10_000, 60, 90]))[0]).toEqual(one[0]);
    expect(two[0].slice(0, 22_050)).toEqual(one[0].slice(0, 22_050));
    expect(two[0].slice(22_050)).not.toEqual(one[0].slice(22_050));
  });
  test('a note that is struck again is not the very same sound', () => {
    const [left] = playRows(request([0, 4000, 60, 90, 20_000, 4000, 60, 90]));
    expect(left.slice(0, 4000)).not.toEqual(left.slice(20_000, 24_000));
  });
  test('keys that the kit lacks are heard all the same, and the end is soft', () => {
    const [left] = playRows(request([0, 4000, 81, 90], { isDrums: true }));
    expect(rms(left, 0, 4000)).toBeGreaterThan(0.001);
    expect(left[left.length - 1]).toBe(0);
  });
});
