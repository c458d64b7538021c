import { rubsIn } from '../../core/arrangement/harmony/clash-meter';
import { progressionOver } from '../../core/arrangement/acts/chords';
import { emptyPattern } from '../../core/arrangement/pattern/make-pattern';
import type { Pattern, PatternNote } from '../../core/arrangement/pattern/pattern';
import { emptyProject, newClipOf, newTrack, type Project } from '../../core/arrangement/tree';
import { createRandom } from '../../core/synth/random';
import { readChord } from '../../core/theory/chord';
import type { Key } from '../../core/theory/key';
import { chordsOfProgression, progressions } from '../../core/theory/progressions';
import { scaleClasses } from '../../core/theory/scale';

const barBeats = 4;

/** Bass and chords over a progression, as notes of the piece: nothing rubs in it. */
function cleanPiece(number: number): Project {
  const random = createRandom(number * 131 + 7),
    key: Key = { tonic: Math.floor(random() * 12), mode: random() < 0.5 ? 'major' : 'minor' },
    list = progressions.filter(({ mode }) => mode === key.mode),
    symbols = chordsOfProgression(list[Math.floor(random() * list.length)], key),
    beats = symbols.length * barBeats;
  let made = 0;
  const note = (startBeat: number, pitch: number, lengthBeats: number): PatternNote => ({
      id: `n${made++}`,
      startBeat,
      lengthBeats,
      pitch,
      velocity: 96,
    }),
    voices = (id: string, notes: PatternNote[], instrument: string): Pattern =>
      emptyPattern({ id, name: id, lengthBeats: beats, notes, instrument }),
    bass = symbols.flatMap((symbol, bar) => {
      const root = readChord(symbol)?.root ?? 0;
      return [0, 1, 2, 3].map((beat) => note(bar * barBeats + beat, 36 + root, 0.9));
    }),
    chords = symbols.flatMap((symbol, bar) =>
      (readChord(symbol)?.classes ?? []).slice(0, 3).map((pitch) => note(bar * barBeats, 60 + pitch, 3.8)),
    ),
    // A tune on chord and scale, its passing notes short.
    tune = symbols.flatMap((symbol, bar) => {
      const classes = readChord(symbol)?.classes ?? [0],
        scale = scaleClasses(key);
      return [0, 1, 2, 3].flatMap((beat) => [
        note(bar * barBeats + beat, 72 + classes[Math.floor(random() * Math.min(3, classes.length))], 0.75),
        note(bar * barBeats + beat + 0.75, 72 + scale[Math.floor(random() * scale.length)], 0.2),
      ]);
    }),
    patterns = [voices('bass', bass, 'electric-bass'), voices('chords', chords, 'piano'), voices('tune', tune, 'flute')];
  return {
    ...emptyProject(`Piece ${number}`, 120, key),
    chords: progressionOver(symbols, beats, barBeats),
    patterns,
    tracks: patterns.map(({ id }) =>
      newTrack({
        id,
        name: id,
        clips: [newClipOf({ kind: 'notes', patternId: id }, { id, startBeat: 0, lengthBeats: beats, followKey: false })],
      }),
    ),
  };
}

/** The same piece with one bar in which a voice is a semitone off: what everybody hears. */
function withClash(piece: Project, number: number): { readonly project: Project; readonly bar: number } {
  const random = createRandom(number * 17 + 3),
    bars = piece.patterns[0].lengthBeats / barBeats,
    bar = Math.floor(random() * bars),
    victim = random() < 0.5 ? 'bass' : 'chords',
    by = random() < 0.5 ? 1 : -1,
    patterns = piece.patterns.map((pattern) =>
      pattern.id === victim
        ? {
            ...pattern,
            notes: pattern.notes.map((each) =>
              each.startBeat >= bar * barBeats && each.startBeat < (bar + 1) * barBeats ? { ...each, pitch: each.pitch + by } : each,
            ),
          }
        : pattern,
    );
  return { project: { ...piece, patterns }, bar };
}

/** How many planted clashes are found, in their bar, and how many clean pieces are said to clash. */
export function clashesFound(count: number): {
  readonly planted: number;
  readonly found: number;
  readonly clean: number;
  readonly falseOnes: number;
} {
  let found = 0,
    falseOnes = 0;
  for (let number = 0; number < count; number++) {
    const clean = cleanPiece(number),
      { project, bar } = withClash(clean, number),
      rubs = rubsIn(project, new Map());
    if (rubs.some(({ startBeat, endBeat }) => startBeat < (bar + 1) * barBeats && endBeat > bar * barBeats)) found++;
    if (rubsIn(clean, new Map()).length > 0) falseOnes++;
  }
  return { planted: count, found, clean: count, falseOnes };
}
