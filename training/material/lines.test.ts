import type { Note } from '../../core/formats/smf/parse';
import { pitchClass } from '../../core/units/pitch';
import { Chance } from './chance';
import { frame, type Frame } from './frame';
import { chordAt, makeHarmony, scales, type Harmony } from './harmony';
import { arpeggio, bassLine, comp, hits, melody } from './lines';
import { compPlayer, held, pitchedPlayers, strum } from './players';

const seeds = Array.from({ length: 40 }, (_, k) => 900 + k);
/** A loop in 4/4 without swing or human timing, so that every note has a place. */
function scene(seed: number): { chance: Chance; shape: Frame; harmony: Harmony } {
  const chance = new Chance(seed),
    drawn = frame(chance, [80, 160], { meter: '4/4' }),
    shape = { ...drawn, playing: { ...drawn.playing, swing: 0.5, loose: 0 } };
  return { chance, shape, harmony: makeHarmony(chance, shape.bars, 4) };
}
const ends = ({ startBeat, lengthBeats }: Note) => startBeat + lengthBeats;

test.each(pitchedPlayers.flatMap(([instrument, , players]) => players.map((player, k) => [instrument, k, player] as const)))(
  '%s %i: plays, inside its bars, notes a keyboard has',
  (_, __, player) => {
    for (const seed of seeds.slice(0, 6)) {
      const { chance, shape, harmony } = scene(seed),
        notes = player(chance, shape, harmony);
      expect(notes.length).toBeGreaterThan(0);
      const odd = notes.filter(
        ({ startBeat, pitch, velocity }) =>
          !(startBeat >= 0 && startBeat < shape.bars * 4 && pitch >= 21 && pitch <= 115 && velocity >= 20 && velocity <= 127),
      );
      expect(odd).toEqual([]);
    }
  },
);

test('chords are made of the notes of the chord that stands there, held ones end with it', () => {
  for (const seed of seeds)
    for (const player of [held, compPlayer, strum]) {
      const { chance, shape, harmony } = scene(seed);
      const odd = player(chance, shape, harmony).filter((note) => {
        // The strings of a strum are up to a sixteenth behind each other.
        const chord = chordAt(harmony.chords, note.startBeat + 0.001),
          before = chordAt(harmony.chords, note.startBeat - (player === strum ? 0.26 : 0)),
          isOfChord = [chord, before].some(({ root, intervals }) =>
            intervals.some((step) => pitchClass(root + step) === pitchClass(note.pitch)),
          );
        return !(isOfChord && ends(note) < chord.startBeat + chord.lengthBeats + 0.5);
      });
      expect(odd).toEqual([]);
    }
});

test('broken chords go through the notes of each chord at one pace', () => {
  for (const seed of seeds) {
    const { chance, shape, harmony } = scene(seed),
      notes = arpeggio(chance, shape, harmony, 60),
      gaps = notes.slice(1).map(({ startBeat }, k) => startBeat - notes[k].startBeat);
    expect(Math.max(...gaps) - Math.min(...gaps)).toBeLessThan(0.35);
    const outside = notes.filter(({ startBeat, pitch }) => {
      const chord = chordAt(harmony.chords, startBeat);
      return !chord.intervals.map((interval) => pitchClass(chord.root + interval)).includes(pitchClass(pitch));
    });
    expect(outside).toEqual([]);
  }
});

test('a melody keeps to its range, plays one note at a time, and seldom leaves its scale', () => {
  let inside = 0,
    all = 0;
  for (const seed of seeds) {
    const { chance, shape, harmony } = scene(seed),
      notes = melody(chance, shape, harmony, 60, 84);
    expect(notes.filter(({ pitch }) => !(pitch >= 59 && pitch <= 84))).toEqual([]);
    expect(notes.slice(1).filter((note, k) => !(ends(notes[k]) <= note.startBeat + 0.09))).toEqual([]);
    notes.forEach((note) => {
      all++;
      inside += Number((scales[harmony.scale] as readonly number[]).includes(pitchClass(note.pitch - harmony.key.tonic)));
    });
  }
  expect(inside / all).toBeGreaterThan(0.9);
});

test('a bass is low and one voice', () => {
  for (const seed of seeds) {
    const { chance, shape, harmony } = scene(seed),
      notes = bassLine(chance, shape, harmony);
    expect(Math.max(...notes.map(({ pitch }) => pitch))).toBeLessThan(31 + 12 + 24);
    expect(notes.slice(1).filter((note, k) => !(note.startBeat > notes[k].startBeat))).toEqual([]);
  }
});

test('a rhythm repeats every bar, and each hit lasts until the next', () => {
  const { chance, shape } = scene(901),
    line = [1, 0, 0, 0.5, 0, 0, 0.5, 0, 0, 0, 1, 0, 0, 0, 0, 0],
    found = hits(chance, shape, line);
  expect(found.slice(0, 4).map(({ at }) => at)).toEqual([0, 0.75, 1.5, 2.5]);
  expect(found.slice(0, 3).map(({ length }) => length)).toEqual([0.75, 0.75, 1]);
  expect(found).toHaveLength(4 * shape.bars);
  expect(ends({ startBeat: found.at(-1)?.at ?? 0, lengthBeats: found.at(-1)?.length ?? 0 } as Note)).toBe(shape.bars * 4);
  expect(comp(chance, shape, makeHarmony(chance, shape.bars, 4), line, { centre: 60, hold: 1, strum: 0 }).length).toBeGreaterThan(
    3 * 4 * shape.bars - 1,
  );
});
