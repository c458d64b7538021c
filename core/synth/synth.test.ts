import { rateHz, rms, seamDb, zeroCrossingHz } from '../../test/generators/signals';
import type { Note } from '../formats/smf/parse';
import { instruments } from '../theory/instruments';
import { noteToHz } from '../units/pitch';
import { removeDc, room, saturate, scaleToPeak } from './effects';
import { kit } from './kit';
import { playNotes, voiceByInstrument } from './play';
import { createRandom, seedFromText } from './random';
import { addPartial, envelope, StateVariable } from './voice';

const note = (changes: Partial<Note> = {}): Note => ({ startBeat: 0, lengthBeats: 1, pitch: 69, velocity: 100, channel: 0, ...changes });
const perform = (notes: Note[], changes: object = {}) =>
  playNotes({ notes, instrument: 'flute', quarterFrames: 22050, totalFrames: 88200, cyclic: true, shiftSemitones: 0, rateHz, ...changes });

describe('chance', () => {
  test('the same seed gives the same numbers, spread evenly from 0 to 1', () => {
    const a = createRandom(42),
      b = createRandom(42),
      numbers = Array.from({ length: 10_000 }, a);
    expect(numbers.slice(0, 100)).toEqual(Array.from({ length: 100 }, b));
    expect(numbers.every((value) => value >= 0 && value < 1)).toBe(true);
    expect(numbers.reduce((sum, value) => sum + value, 0) / numbers.length).toBeCloseTo(0.5, 1);
  });
  test('texts give seeds of their own', () => expect(new Set(['a', 'b', 'ab', 'ba', ''].map(seedFromText)).size).toBe(5));
});

describe('building blocks', () => {
  test('an envelope rises, decays, holds and dies', () => {
    const at = (time: number) => envelope(time, 1, 0.1, 0.1, 0.5, 0.05);
    expect([at(0), at(0.05), at(0.1)]).toEqual([0, 0.5, 1]);
    expect(at(0.9)).toBeCloseTo(0.5, 2);
    expect(at(1.5)).toBeLessThan(0.001);
  });
  test('a rotating partial is a decaying sine', () => {
    const out = new Float32Array(4410);
    addPartial(out, 441, 0.5, 0, 0.1, rateHz);
    out.forEach((value, i) => {
      if (Math.abs(value - 0.5 * Math.sin((2 * Math.PI * 441 * i) / rateHz) * Math.exp(-i / 4410)) > 1e-4) throw new Error(`frame ${i}`);
    });
  });
  test('the filter stays in bounds while it is swept fast at high resonance', () => {
    const filter = new StateVariable(rateHz),
      random = createRandom(2);
    let largest = 0;
    for (let i = 0; i < rateHz; i++) {
      filter.step(random() * 2 - 1, 200 + 10_000 * random(), 0.95);
      largest = Math.max(largest, Math.abs(filter.low));
    }
    expect(largest).toBeLessThan(50);
  });
});

describe('every voice', () => {
  const ids = Object.keys(voiceByInstrument);
  test.each(ids)('%s: finite, audible, not clipping, and dies away', (id) => {
    const sound = voiceByInstrument[id]({ hz: 220, velocity: 0.8, heldSeconds: 0.4, rateHz, tone: 0.5, random: createRandom(1) });
    expect(sound.every(Number.isFinite)).toBe(true);
    expect(rms(sound, 0, 12_000)).toBeGreaterThan(0.005);
    expect(Math.max(...sound.map(Math.abs))).toBeLessThan(1.6);
    expect(Math.abs(sound[sound.length - 1])).toBeLessThan(0.02);
  });
  test('all of them are instruments we know', () => expect(ids.filter((id) => !instruments.some((each) => each.id === id))).toEqual([]));
  test.each(Object.keys(kit).map(Number))('drum key %d sounds', (key) => {
    const sound = kit[key].voice({ hz: kit[key].hz, velocity: 0.8, heldSeconds: 0.1, rateHz, tone: 0.5, random: createRandom(1) });
    expect(sound.every(Number.isFinite)).toBe(true);
    expect(rms(sound, 0, Math.min(4000, sound.length))).toBeGreaterThan(0.001);
  });
});

describe('playing notes', () => {
  test('pitch is what is written, within 3 cents, and moves as asked', () => {
    const cents = (shiftSemitones: number) =>
      1200 *
      Math.log2(
        zeroCrossingHz(perform([note({ lengthBeats: 3 })], { shiftSemitones, instrument: 'sub-bass', tone: 0 })[0].subarray(8000, 60_000)) /
          noteToHz(69 + shiftSemitones),
      );
    for (const shift of [0, 5, -7]) expect(Math.abs(cents(shift))).toBeLessThan(3);
  });
  test('a loop’s tail wraps to its start; a cut one does not', () => {
    const late = [note({ startBeat: 3.5, lengthBeats: 1 })];
    expect(rms(perform(late)[0], 0, 4000)).toBeGreaterThan(0.01);
    expect(rms(perform(late, { cyclic: false })[0], 0, 4000)).toBe(0);
    expect(seamDb(perform([note({ startBeat: 2, lengthBeats: 3 })])[0])).toBeLessThan(6);
  });
  test('drums are never transposed', () => {
    const hit = [note({ channel: 9, pitch: 36 })];
    expect(perform(hit, { shiftSemitones: 7 })[0]).toEqual(perform(hit)[0]);
  });
  test('the same notes give the same samples; none give silence', () => {
    expect(perform([note()])[0]).toEqual(perform([note()])[0]);
    expect(rms(perform([])[0])).toBe(0);
  });
});

describe('effects', () => {
  const pair = (): [Float32Array, Float32Array] => {
    const random = createRandom(4);
    return [0, 1].map(() => Float32Array.from({ length: 20_000 }, () => (random() - 0.5) * 0.4 + 0.1)) as [Float32Array, Float32Array];
  };
  test('the mean goes', () => {
    const sound = pair();
    removeDc(sound);
    for (const plane of sound) expect(Math.abs(plane.reduce((a, b) => a + b, 0) / plane.length)).toBeLessThan(1e-6);
  });
  test('the peak is where it should be; silence stays', () => {
    const sound = pair();
    scaleToPeak(sound, -6);
    expect(Math.max(...sound.map((plane) => Math.max(...plane.map(Math.abs))))).toBeCloseTo(0.501, 3);
    const nothing: [Float32Array, Float32Array] = [new Float32Array(4), new Float32Array(4)];
    scaleToPeak(nothing, -1);
    expect(nothing[0]).toEqual(new Float32Array(4));
  });
  test('no drive and no wet change nothing; some do', () => {
    const sound = pair(),
      before = sound[0].slice();
    saturate(sound, 0);
    room(sound, rateHz, 0, 1, true);
    expect(sound[0]).toEqual(before);
    room(sound, rateHz, 0.3, 0.8, true);
    saturate(sound, 0.5);
    expect(sound[0]).not.toEqual(before);
    expect(sound[0].every(Number.isFinite)).toBe(true);
  });
});
