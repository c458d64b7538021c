import { readName } from '../../core/names/parse-name';
import { pitchClass } from '../../core/units/pitch';
import { Chance } from './chance';
import { composePiece, composeTonal, composeUntuned } from './compose';
import { finish, type Stereo } from './finish';
import { chordsOf, coloured, judgeKey, makeHarmony, scales } from './harmony';
import { nameFor } from './names';
import { pieceSeconds, quartersPerBar, type Part } from './piece';
import { euclid, swung } from './rhythm';
import { randomEffect } from './effects';
import { randomHit } from './hits';
import { randomTones } from './tones';

const rateHz = 44100;
const pieces = Array.from({ length: 400 }, (_, k) => composePiece(1000 + k));

describe('composing', () => {
  test('the same seed gives the same piece, another seed another', () => {
    expect(composePiece(7)).toEqual(composePiece(7));
    expect(composePiece(7)).not.toEqual(composePiece(8));
  });
  test('loops with notes only have harmony, pieces without have none', () => {
    for (let k = 0; k < 60; k++) {
      expect(composeTonal(k)).toMatchObject({ isLoop: true, key: expect.anything() });
      const untuned = composeUntuned(k);
      if (untuned.isLoop) expect(untuned.keyStatus).toBe('atonal');
    }
  });
  test('loops stay inside their bars and below half a minute; hits have no bars', () => {
    for (const piece of pieces) {
      if (!piece.isLoop) {
        expect(piece.bars).toBe(0);
        continue;
      }
      expect(pieceSeconds(piece)).toBeLessThan(30);
      const quarters = piece.bars * quartersPerBar(piece.meter);
      for (const { notes } of piece.parts) {
        expect(notes.length).toBeGreaterThan(0);
        const odd = notes.filter(
          ({ startBeat, velocity, pitch }) =>
            !(startBeat >= 0 && startBeat < quarters + 0.2 && velocity >= 1 && velocity <= 127 && pitch >= 0 && pitch <= 127),
        );
        expect(odd).toEqual([]);
      }
    }
  });
  test('drums have no key; what is called clear sounds its tonic and its third', () => {
    for (const piece of pieces) {
      const classes = new Set(
        piece.parts.flatMap(({ notes }) => notes.filter(({ channel }) => channel !== 9).map(({ pitch }) => pitchClass(pitch))),
      );
      if (piece.key === null) expect(piece.keyStatus).toBe('atonal');
      if (piece.keyStatus === 'clear' && piece.key) {
        expect(classes).toContain(piece.key.tonic);
        expect(classes).toContain(pitchClass(piece.key.tonic + (piece.key.mode === 'major' ? 4 : 3)));
      }
    }
  });
  test('a bass stands on the roots of its chords: most of what it plays where a chord begins is the root', () => {
    let onRoot = 0,
      all = 0;
    for (let seed = 0; seed < 400; seed++) {
      const piece = composeTonal(seed);
      for (const { instrument, notes } of piece.parts) {
        if (!instrument.endsWith('bass') || notes.length < 3) continue;
        for (const { startBeat, root } of piece.chords) {
          const first = notes.find((note) => Math.abs(note.startBeat - startBeat) < 0.1);
          if (!first) continue;
          all++;
          if (pitchClass(first.pitch) === root) onRoot++;
        }
      }
    }
    expect(all).toBeGreaterThan(100);
    expect(onRoot / all).toBeGreaterThan(0.7);
  });
  test('all families and meters come up', () => {
    expect(new Set(pieces.map(({ meter }) => meter))).toEqual(new Set(['4/4', '3/4', '6/8']));
    expect(new Set(pieces.map(({ instrument }) => instrument)).size).toBeGreaterThan(30);
  });
});

describe('harmony and rhythm', () => {
  test('most chords lie in the scale; coloured progressions leave it, and all fill their bars', () => {
    const harmonies = Array.from({ length: 300 }, (_, seed) => makeHarmony(new Chance(seed), 4, 4));
    for (const { chords } of harmonies) {
      expect(chords.reduce((sum, chord) => sum + chord.lengthBeats, 0)).toBe(16);
      for (const { root, intervals } of chords) {
        expect(root).toBeGreaterThanOrEqual(0);
        expect(root).toBeLessThan(12);
        expect(intervals.length).toBeGreaterThan(1);
        expect(intervals.every(Number.isInteger)).toBe(true);
      }
    }
    const plain = harmonies.filter(({ key, scale, chords }) =>
      chords.every(({ root }) => (scales[scale] as readonly number[]).includes(pitchClass(root - key.tonic))),
    );
    expect(plain.length).toBeGreaterThan(200);
    expect(plain.length).toBeLessThan(290);
  });
  test.each(Object.entries(coloured).flatMap(([mode, list]) => list.map((text) => [mode, text] as const)))(
    'coloured in %s: %s reads as chords within an octave',
    (_, text) => {
      const chords = chordsOf(text);
      expect(chords.length).toBeGreaterThan(1);
      for (const { root, intervals } of chords) {
        expect(root).toBeLessThan(12);
        expect(intervals[0]).toBe(0);
        expect(intervals.every((interval) => interval >= 0 && interval < 12)).toBe(true);
      }
    },
  );
  test('one note alone tells a tonic and no more; no tonic tells nothing for sure', () => {
    const harmony = makeHarmony(new Chance(3), 4, 4),
      part = (pitches: readonly number[]): Part => ({
        instrument: 'piano',
        gain: 1,
        notes: pitches.map((pitch, k) => ({ startBeat: k, lengthBeats: 1, pitch, velocity: 90, channel: 0 })),
      });
    expect(judgeKey(harmony, [part([50, 62, 74])])).toMatchObject({ status: 'tonicOnly', key: { tonic: 2 } });
    const { tonic } = harmony.key;
    expect(judgeKey(harmony, [part([60 + tonic + 2, 60 + tonic + 7])]).status).toBe('ambiguous');
  });
  test('three over eight as it is known (Toussaint 2005), and swing leaves beats alone', () => {
    expect(euclid(3, 8, 0).map((value) => (value ? 1 : 0))).toEqual([1, 0, 0, 1, 0, 0, 1, 0]);
    for (const hits of [3, 5, 7]) expect(euclid(hits, 16, 4).filter(Boolean)).toHaveLength(hits);
    const swing = { swing: 2 / 3, swingQuarters: 0.5 };
    expect([0, 0.5, 1, 1.5].map((at) => swung(at, swing))).toEqual([0, expect.closeTo(2 / 3, 6), 1, expect.closeTo(5 / 3, 6)]);
  });
});

describe('finishing', () => {
  const loop = pieces.find((piece) => piece.isLoop && pieceSeconds(piece) < 5) as (typeof pieces)[number];
  const raw = (): Stereo =>
    [0, 1].map(() =>
      Float32Array.from({ length: Math.ceil((pieceSeconds(loop) + 2.6) * rateHz) }, (_, k) => 0.3 * Math.sin(k / 9)),
    ) as Stereo;
  test('the file is as long as lead, music and end say, whatever was done to it', () => {
    const seen = new Set<string>();
    for (let seed = 0; seed < 24; seed++) {
      const done = finish(raw(), loop, pieceSeconds(loop), new Chance(seed));
      seen.add(done.conditions[0]);
      expect(done.sound[0].length / rateHz).toBeCloseTo(done.leadSeconds + pieceSeconds(loop) + done.endDeltaSeconds, 3);
      for (const plane of done.sound) expect(plane.every((value) => Math.abs(value) <= 1)).toBe(true);
      const lead = Math.round(done.leadSeconds * rateHz);
      if (lead > 0 && !done.conditions.includes('noise')) expect(done.sound[0].subarray(0, lead).every((value) => value === 0)).toBe(true);
    }
    expect(seen.size).toBeGreaterThan(3);
  });
});

describe('names', () => {
  test('errors come as often as vendors make them: half and double together 8 %, other wrong tempos 1.5 %', () => {
    let named = 0,
      octave = 0,
      wrong = 0;
    for (let seed = 0; seed < 6000; seed++) {
      const piece = pieces[seed % pieces.length];
      if (!piece.isLoop || piece.meter === '6/8') continue;
      const said = / (\d+(?:\.\d+)?) BPM /.exec(nameFor(piece, new Chance(seed)).name)?.[1];
      if (!said) continue;
      named++;
      const ratio = Number(said) / piece.tempoBpm;
      if (Math.abs(ratio - 2) < 0.02 || Math.abs(ratio - 0.5) < 0.02) octave++;
      else if (Math.abs(ratio - 1) > 0.02) wrong++;
    }
    expect(named).toBeGreaterThan(200);
    expect(octave / named).toBeGreaterThan(0.04);
    expect(octave / named).toBeLessThan(0.13);
    expect(wrong / named).toBeLessThan(0.05);
  });
  test('most names can be read back', () => {
    const loops = pieces.filter(({ isLoop }) => isLoop);
    const read = loops.filter((piece, k) => readName(nameFor(piece, new Chance(k)).name).instrument !== null);
    expect(read.length / loops.length).toBeGreaterThan(0.9);
  });
});

describe('electronic voices', () => {
  test.each([36, 38, 37, 39, 42, 46, 49, 45, 63, 70, 54, 76, 56, 81, 99])('a hit of key %d peaks at 1 and ends', (key) => {
    const hit = randomHit(key, new Chance(key), rateHz);
    expect(hit.reduce((most, value) => Math.max(most, Math.abs(value)), 0)).toBeCloseTo(1, 5);
    expect(hit.length).toBeLessThan(8 * rateHz);
  });
  test.each(Object.keys(randomTones))('%s sounds, stays finite and dies away', (name) => {
    const note = { hz: 220, velocity: 0.8, heldSeconds: 0.2, rateHz, tone: 0.5, random: () => 0.5 };
    const sound = randomTones[name](new Chance(5))(note);
    expect(sound.every(Number.isFinite)).toBe(true);
    expect(sound.some((value) => Math.abs(value) > 0.01)).toBe(true);
    expect(Math.abs(sound[sound.length - 1])).toBeLessThan(0.05);
  });
  test.each(['fx:riser', 'fx:downlifter', 'fx:impact', 'fx:texture', 'fx:zap'])('%s is finite, and moves as its name says', (kind) => {
    const sound = randomEffect(kind, 0.8, new Chance(11), rateHz),
      energy = (from: number, to: number) =>
        sound.slice(Math.floor(from * sound.length), Math.floor(to * sound.length)).reduce((sum, value) => sum + value * value, 0);
    expect(sound.every(Number.isFinite)).toBe(true);
    if (kind === 'fx:riser') expect(energy(0.7, 1)).toBeGreaterThan(energy(0, 0.3));
    if (kind === 'fx:downlifter' || kind === 'fx:impact') expect(energy(0, 0.3)).toBeGreaterThan(energy(0.7, 1));
  });
});
