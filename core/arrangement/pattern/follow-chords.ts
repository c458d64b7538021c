import { triadChances } from '../../analysis/chords/bars';
import { readChord, type ChordTones } from '../../theory/chord';
import { instrumentById } from '../../theory/instruments';
import type { Key } from '../../theory/key';
import { rangeOf } from '../../theory/ranges';
import { scaleClasses } from '../../theory/scale';
import { pitchClass } from '../../units/pitch';
import { chordAtBeat, harmonyAt, linesBetween, type Harmonic } from '../harmony/harmony';
import type { ChordMark } from '../tree';
import type { SoundingNote } from './pattern';

export interface Following {
  readonly writtenKey: Key | null;
  /** Chords over which the notes are written, in beats of the piece; empty: found from the notes, bar by bar. */
  readonly writtenChords: readonly ChordMark[];
  readonly wanted: Harmonic;
  readonly instrument: string | null;
  readonly barBeats: number;
  /** Where the notes' own bars begin. */
  readonly originBeat: number;
}

/** A chord tone that is missing costs as much as moving one note by so many semitones. */
const missingCost = 5;

/** What is held over a change of chord for as long as this, and does not belong to the new one, is struck again there. */
const struckAgainBeats = 1;

interface Stretch {
  readonly notes: readonly SoundingNote[];
  readonly written: ChordTones;
  readonly wanted: ChordTones;
  readonly key: Key | null;
}

/**
 * Notes brought over the chords of the piece: in each stretch over one chord, the pitches that belong to the chord they were written over go to those of
 * the wanted chord, in their order and with the smallest movement that leaves none of its notes out; what passes between them goes to the scale
 * between. Rhythm, velocity, register and contour stay. A bass takes the chord's bass where it had the root. Where no chord holds nothing is moved.
 */
export function followChords(notes: readonly SoundingNote[], following: Following): SoundingNote[] {
  const { wanted } = following,
    out: SoundingNote[] = [];
  for (const part of stretchesOf(heldApart(notes, wanted), following)) {
    if ('left' in part) out.push(...part.left);
    else out.push(...revoiced(part, following));
  }
  return out.sort((a, b) => a.startBeat - b.startBeat || a.pitch - b.pitch);
}

/** Long notes cut where the chord under them changes. */
function heldApart(notes: readonly SoundingNote[], wanted: Harmonic): SoundingNote[] {
  return notes.flatMap((note) => {
    const end = note.startBeat + note.lengthBeats,
      lines = linesBetween({ ...wanted, sections: [] }, note.startBeat, end).filter((beat) => end - beat >= struckAgainBeats - 1e-6),
      starts = [note.startBeat, ...lines];
    return starts.map((startBeat, k) => ({ ...note, startBeat, lengthBeats: (starts[k + 1] ?? end) - startBeat }));
  });
}

/** Notes by what they were written over and what is wanted. */
function* stretchesOf(
  notes: readonly SoundingNote[],
  following: Following,
): Generator<Stretch | { readonly left: readonly SoundingNote[] }> {
  const { wanted, barBeats, originBeat, writtenChords, writtenKey } = following,
    barOf = (beat: number) => Math.floor((beat - originBeat) / barBeats + 1e-6),
    groups = new Map<string, SoundingNote[]>(),
    byBar = new Map<number, SoundingNote[]>();
  for (const note of notes) {
    const bar = barOf(note.startBeat),
      name = `${bar}/${chordAtBeat(wanted.chords ?? [], note.startBeat)?.startBeat}/${chordAtBeat(writtenChords, note.startBeat)?.startBeat}`;
    groups.set(name, [...(groups.get(name) ?? []), note]);
    byBar.set(bar, [...(byBar.get(bar) ?? []), note]);
  }
  for (const group of groups.values()) {
    const beat = group[0].startBeat,
      { chord, key } = harmonyAt(wanted, beat),
      stated = chordAtBeat(writtenChords, beat),
      written = (stated && readChord(stated.symbol)) ?? writtenChordOf(byBar.get(barOf(beat)) ?? group, writtenKey);
    yield chord && written ? { notes: group, written, wanted: chord, key } : { left: group };
  }
}

/** The triad that notes are written over: the likeliest by how long each sounds, and which is lowest. */
export function writtenChordOf(notes: readonly Pick<SoundingNote, 'pitch' | 'lengthBeats'>[], key: Key | null): ChordTones | null {
  if (notes.length === 0) return null;
  const classes = new Float32Array(12),
    bass = new Float32Array(12),
    lowest = Math.min(...notes.map(({ pitch }) => pitch));
  for (const { pitch, lengthBeats } of notes) {
    classes[pitchClass(pitch)] += lengthBeats;
    if (pitch < lowest + 4) bass[pitchClass(pitch)] += lengthBeats;
  }
  const chances = triadChances(classes, bass);
  // Of what is as likely, the one that is at home.
  if (key) {
    const scale = scaleClasses(key);
    chances.forEach((chance, k) => {
      const triad = [k % 12, (k + (k < 12 ? 4 : 3)) % 12, (k + 7) % 12];
      if (triad.every((each) => scale.includes(each))) chances[k] = chance * 1.5;
    });
  }
  const best = chances.indexOf(Math.max(...chances)),
    root = best % 12,
    third = best < 12 ? 'major' : 'minor';
  return { root, bass: root, third, classes: [root, (root + (third === 'major' ? 4 : 3)) % 12, (root + 7) % 12] };
}

/** Whether a note is on a beat that is counted strong: the first of the bar, and its middle. */
const isStrong = (beat: number, { barBeats, originBeat }: Pick<Following, 'barBeats' | 'originBeat'>): boolean => {
  const into = (((beat - originBeat) % barBeats) + barBeats) % barBeats,
    near = (at: number) => Math.abs(into - at) < 0.06 || Math.abs(into - at - barBeats) < 0.06;
  return near(0) || (barBeats % 2 === 0 && near(barBeats / 2));
};

function revoiced({ notes, written, wanted, key }: Stretch, following: Following): SoundingNote[] {
  const isBass = instrumentById(following.instrument)?.family === 'bass',
    range = rangeOf(following.instrument),
    pitches = [...new Set(notes.map(({ pitch }) => pitch))].sort((a, b) => a - b),
    strong = new Set(notes.filter(({ startBeat }) => isStrong(startBeat, following)).map(({ pitch }) => pitch)),
    carrying = pitches.filter((pitch) => written.classes.includes(pitchClass(pitch)) || strong.has(pitch)),
    goals = isBass ? bassGoals(carrying, written, wanted, range) : nearestVoicing(carrying, wanted.classes, range),
    scale = new Set([...wanted.classes, ...(key ? scaleClasses(key) : wanted.classes)]),
    moved = new Map(pitches.map((pitch) => [pitch, goals.get(pitch) ?? passing(pitch, goals, scale, range)]));
  return notes.map((note) => ({ ...note, pitch: moved.get(note.pitch) ?? note.pitch }));
}

/** The root of a bass goes to the chord's bass, its other notes to the nearest of the chord. */
function bassGoals(
  pitches: readonly number[],
  written: ChordTones,
  wanted: ChordTones,
  range: readonly [number, number],
): Map<number, number> {
  const nearestOf = (pitch: number, classes: readonly number[]) => {
    const near = Array.from({ length: 25 }, (_, k) => pitch - 12 + k).filter(
      (each) => classes.includes(pitchClass(each)) && each >= range[0] && each <= range[1],
    );
    return near.reduce((best, each) => (Math.abs(each - pitch) < Math.abs(best - pitch) ? each : best), near[0] ?? pitch);
  };
  return new Map(pitches.map((pitch) => [pitch, nearestOf(pitch, pitchClass(pitch) === written.root ? [wanted.bass] : wanted.classes)]));
}

/**
 * The notes of a chord that are nearest to some pitches: each higher one gets a higher note, or the same where there is no room, all of the chord is
 * there where the pitches are many enough, and the movement in all is the smallest that allows that.
 * @param pitches in order, each once
 */
export function nearestVoicing(
  pitches: readonly number[],
  classes: readonly number[],
  range: readonly [number, number],
): Map<number, number> {
  if (pitches.length === 0) return new Map();
  const from = Math.max(range[0], pitches[0] - 9),
    to = Math.min(range[1], pitches[pitches.length - 1] + 9),
    goals = Array.from({ length: Math.max(0, to - from + 1) }, (_, k) => from + k).filter((pitch) => classes.includes(pitchClass(pitch)));
  if (goals.length === 0) return new Map(pitches.map((pitch) => [pitch, pitch]));
  // Where there are fewer pitches than the chord has notes, root, third and what colours it come before the fifth.
  const bits = new Map(classes.slice(0, 5).map((each, k) => [each, 1 << k] as const)),
    states = 1 << bits.size,
    bitsOf = goals.map((goal) => bits.get(pitchClass(goal)) ?? 0),
    needed = Math.min(pitches.length, bits.size),
    isStrict = goals.length >= pitches.length + 2;
  let costs = new Map<number, { readonly cost: number; readonly path: readonly number[] }>([[0, { cost: 0, path: [] }]]);
  for (const pitch of pitches) {
    const next = new Map<number, { readonly cost: number; readonly path: readonly number[] }>();
    for (const [state, { cost, path }] of costs) {
      const covered = state % states,
        after = Math.floor(state / states) - 1,
        first = path.length === 0 ? 0 : isStrict ? after + 1 : after;
      for (let k = first; k < goals.length; k++) {
        const away = Math.abs(goals[k] - pitch);
        if (away > 9) continue;
        const name = (k + 1) * states + (covered | bitsOf[k]),
          // What moves far is worse than two that move a little.
          sum = cost + away + away * away * 0.02,
          known = next.get(name);
        if (!known || sum < known.cost) next.set(name, { cost: sum, path: [...path, k] });
      }
    }
    costs = next;
  }
  let best: { readonly cost: number; readonly path: readonly number[] } | null = null;
  for (const [state, found] of costs) {
    const covered = (state % states).toString(2).replaceAll('0', '').length,
      cost = found.cost + missingCost * Math.max(0, needed - covered);
    if (!best || cost < best.cost) best = { ...found, cost };
  }
  return new Map(pitches.map((pitch, k) => [pitch, best ? goals[best.path[k]] : pitch]));
}

/** What passes goes along with its neighbours, onto the nearest note of the scale. */
function passing(pitch: number, goals: ReadonlyMap<number, number>, scale: ReadonlySet<number>, range: readonly [number, number]): number {
  const known = [...goals].sort((a, b) => a[0] - b[0]),
    below = known.findLast(([from]) => from < pitch),
    above = known.find(([from]) => from > pitch),
    by = (each: readonly [number, number] | undefined) => (each ? each[1] - each[0] : null),
    shift = ((by(below) ?? by(above) ?? 0) + (by(above) ?? by(below) ?? 0)) / 2,
    wanted = pitch + shift,
    near = Array.from({ length: 13 }, (_, k) => Math.round(wanted) - 6 + k).filter(
      (each) => scale.has(pitchClass(each)) && each >= range[0] && each <= range[1],
    );
  return near.reduce((best, each) => (Math.abs(each - wanted) < Math.abs(best - wanted) ? each : best), near[0] ?? pitch);
}
