import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import type { Frame } from './frame';
import { chordAt, scales, voicing, type Harmony } from './harmony';
import { euclid, scattered, swung, type Steps } from './rhythm';

/* Notes over a harmony: chords, broken chords, melodies, bass lines. */

/** Sixteenths from one beat to the next. */
export const beatSteps = ({ meter }: Frame): number => (meter === '6/8' ? 6 : 4);

interface Voicing {
  readonly centre: number;
  readonly hold: number;
  readonly strum: number;
}

export const note = (startBeat: number, lengthBeats: number, pitch: number, velocity: number): Note => ({
  startBeat,
  lengthBeats: Math.max(0.08, lengthBeats),
  pitch,
  velocity: Math.max(20, Math.min(127, Math.round(velocity))),
  channel: 0,
});

export function hits(chance: Chance, shape: Frame, rhythm: Steps): { at: number; length: number; strength: number }[] {
  const total = shape.bars * shape.playing.barQuarters,
    places: { at: number; strength: number }[] = [];
  for (let step = 0; step < total * 4; step++) {
    const strength = rhythm[step % rhythm.length];
    if (strength > 0) places.push({ at: step / 4, strength });
  }
  return places.map(({ at, strength }, k) => ({ at, strength, length: (places[k + 1]?.at ?? total) - at }));
}

export const place = (at: number, shape: Frame, chance: Chance): number =>
  Math.max(0, swung(at, shape.playing) + (at === 0 ? 0 : chance.normal(shape.playing.loose)));

/** The note of a pitch class next below `pitch`. */
const below = (pitchClass: number, pitch: number): number => pitch - ((pitch - pitchClass + 119) % 12) - 1;

export function comp(chance: Chance, shape: Frame, harmony: Harmony, rhythm: Steps | null, { centre, hold, strum }: Voicing): Note[] {
  let before: number[] | null = null,
    last: unknown = null;
  const notes: Note[] = [];
  const list = rhythm
    ? hits(chance, shape, rhythm)
    : harmony.chords.map((chord) => ({ at: chord.startBeat, length: chord.lengthBeats, strength: 0.75 }));
  for (const { at, length, strength } of list) {
    const chord = chordAt(harmony.chords, at);
    if (chord !== last || !before) before = voicing(chord, centre, before, chance);
    last = chord;
    const until = Math.min(length, Math.max(0.25, chord.startBeat + chord.lengthBeats - at));
    const sounding = harmony.pedal === undefined ? before : [below(harmony.pedal, before[0]), ...before];
    sounding.forEach((pitch, k) =>
      notes.push(note(place(at, shape, chance) + k * strum, until * hold, pitch, 50 + 50 * strength + chance.normal(6))),
    );
  }
  return notes;
}

export function arpeggio(chance: Chance, shape: Frame, harmony: Harmony, centre: number): Note[] {
  const step = chance.pick(shape.meter === '4/4' ? [0.25, 0.5, 0.25, 1 / 3] : [0.25, 0.5, 0.5]),
    order = chance.pick([
      [0, 1, 2, 1],
      [0, 2, 1, 3],
      [0, 1, 2, 3],
      [3, 2, 1, 0],
      [0, 1, 2],
    ]),
    hold = chance.pick([0.7, 0.95, 1.6]);
  let before: number[] | null = null;
  return harmony.chords.flatMap((chord) => {
    before = voicing(chord, centre, before, chance);
    const tones = [...before, before[0] + 12];
    return Array.from({ length: Math.round(chord.lengthBeats / step) }, (_, k) =>
      note(
        place(chord.startBeat + k * step, shape, chance),
        step * hold,
        tones[order[k % order.length] % tones.length],
        chance.whole(70, 106),
      ),
    );
  });
}

export function melody(chance: Chance, shape: Frame, harmony: Harmony, low: number, high: number): Note[] {
  // Five notes of the seven in every fourth tune, with the blue note in some.
  const five = chance.yes(0.25) ? (harmony.key.mode === 'minor' ? [0, 3, 5, 7, 10] : [0, 2, 4, 7, 9]) : null,
    scale: readonly number[] = five
      ? [...five, ...(chance.yes(0.3) ? [harmony.key.mode === 'minor' ? 6 : 3] : [])].sort((a, b) => a - b)
      : scales[harmony.scale],
    passing = chance.pick([0, 0, 0.05]);
  const ladder = Array.from({ length: high - low }, (_, k) => low + k).filter((pitch) =>
    scale.includes((pitch - harmony.key.tonic + 120) % 12),
  );
  const grid = chance.pick([0.5, 0.5, 0.25, 1]),
    motif = Array.from({ length: chance.whole(3, 6) }, () => chance.pick([1, 1, 2, 2, 3, 4]) * grid),
    total = shape.bars * shape.playing.barQuarters,
    notes: Note[] = [];
  let at = 0,
    index = chance.whole(Math.floor(ladder.length * 0.3), Math.floor(ladder.length * 0.7));
  for (let k = 0; at < total - 0.01; k++) {
    const length = Math.min(total - at, chance.yes(0.8) ? motif[k % motif.length] : chance.pick([1, 2, 3]) * grid);
    const chord = chordAt(harmony.chords, at),
      tones = ladder.filter((pitch) => chord.intervals.some((interval) => (chord.root + interval - pitch + 120) % 12 === 0));
    if ((at % 1 < 0.01 && chance.yes(0.7)) || k === 0) {
      const near = (tones.length ? tones : ladder).reduce((best, pitch) =>
        Math.abs(pitch - ladder[index]) < Math.abs(best - ladder[index]) ? pitch : best,
      );
      index = ladder.indexOf(near);
    } else index = Math.max(0, Math.min(ladder.length - 1, index + chance.pick([-2, -1, -1, 1, 1, 2])));
    // A tune that spares its tonic steps aside where it would meet it.
    if (harmony.sparesTonic && (ladder[index] - harmony.key.tonic) % 12 === 0 && chance.yes(0.8))
      index = Math.max(0, Math.min(ladder.length - 1, index + chance.pick([-1, 1, 2])));
    if (chance.yes(0.88) || k === 0)
      notes.push(
        note(
          place(at, shape, chance),
          length * chance.pick([0.6, 0.9, 0.98]),
          ladder[index] + (chance.yes(passing) ? chance.pick([-1, 1]) : 0),
          chance.whole(72, 114),
        ),
      );
    at += length;
  }
  return notes;
}

export function bassLine(chance: Chance, shape: Frame, harmony: Harmony): Note[] {
  const how = chance.pick(['root', 'root', 'fifth', 'octave', 'walk', 'free', 'free']),
    lowest = chance.pick([26, 28, 31]);
  const low = (root: number) => lowest + (((harmony.pedal ?? root) - lowest + 120) % 12);
  if (how === 'walk')
    return Array.from({ length: shape.bars * shape.playing.barQuarters }, (_, beat) => {
      const chord = chordAt(harmony.chords, beat),
        following = chordAt(harmony.chords, (beat + 1) % (shape.bars * shape.playing.barQuarters));
      const pitch =
        beat === chord.startBeat
          ? low(chord.root)
          : following !== chord
            ? low(following.root) + chance.pick([-1, 1, 2, -2])
            : low(chord.root) + chance.pick([...chord.intervals.slice(1, 3), 12]);
      return note(place(beat, shape, chance), 0.9, pitch, chance.whole(80, 108));
    });
  if (shape.meter !== '4/4' && chance.yes(0.4))
    return harmony.chords.flatMap(({ startBeat, lengthBeats, root }) =>
      // On the bar lines alone, or on the two beats of a six.
      Array.from({ length: Math.max(1, Math.round(lengthBeats / (shape.meter === '6/8' ? 1.5 : 3))) }, (_, k) =>
        note(
          place(startBeat + k * (shape.meter === '6/8' ? 1.5 : 3), shape, chance),
          chance.pick([0.8, 1.3]),
          low(root) + (k % 2 ? chance.pick([0, 7]) : 0),
          chance.whole(80, 112),
        ),
      ),
    );
  const rhythm = chance.pick([
    scattered(chance, shape.playing.barQuarters * 4, 0.35, beatSteps(shape)).map((v, k) => (k === 0 ? 1 : v)),
    euclid(chance.pick([3, 4, 5, 8]), shape.playing.barQuarters * 4, 0),
    scattered(chance, shape.playing.barQuarters * 4, 0.3, beatSteps(shape)),
  ]);
  const passing = chance.pick([0, 0, 0.05]);
  return hits(chance, shape, rhythm).map(({ at, length }, k) => {
    const chord = chordAt(harmony.chords, at),
      root = low(chord.root) + (k > 0 && chance.yes(passing) ? chance.pick([-1, 1]) : 0);
    const step =
      how === 'octave'
        ? k % 2
          ? 12
          : 0
        : how === 'fifth'
          ? chance.pick([0, 0, 0, 7])
          : how === 'free'
            ? chance.pick([0, 0, 0, 12, 7, -2, chord.intervals[1]])
            : 0;
    return note(place(at, shape, chance), length * chance.pick([0.5, 0.8, 0.95]), root + step, chance.whole(78, 114));
  });
}
