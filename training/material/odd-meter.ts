import { drumChannelIndex } from '../../core/synth/play';
import type { Note } from '../../core/formats/smf/parse';
import type { Chance } from './chance';
import { quartersPerBar, type OddMeter, type Part, type Piece } from './piece';

/** Odd meters, with how usual each is (from memory of common practice). */
const oddMeters: readonly (readonly [OddMeter, number])[] = [
  ['5/4', 5],
  ['7/8', 5],
  ['7/4', 3],
  ['5/8', 1],
];
/** With those of nine and eleven, as twos and a three. */
const rarerMeters: typeof oddMeters = [
  ['9/8', 5],
  ['11/8', 3],
  ['5/4', 4],
  ['7/8', 4],
  ['7/4', 2],
];
const longestSeconds = 24;

/** Which stretch of a bar of four is played once more, or left out: `[from, to]` in quarters. */
interface Turn {
  readonly kept: number;
  readonly again: readonly [from: number, to: number] | null;
}

/** A bar of four made one of another length: it stops early, or some of its beats come again. */
function turnOf(meter: OddMeter, chance: Chance): Turn {
  const quarters = quartersPerBar(meter);
  if (quarters <= 4) return { kept: quarters, again: null };
  const more = quarters - 4,
    from = chance.pick([0, 0, 4 - more, chance.whole(0, 4 - more)]);
  return { kept: 4, again: [from, from + more] };
}

/** The notes of one bar of four, by their places in it, as notes of a bar in the other meter. */
function turned(notes: readonly Note[], { kept, again }: Turn): Note[] {
  const quarters = again ? 4 + again[1] - again[0] : kept,
    out: Note[] = [];
  for (const note of notes) {
    const end = note.startBeat + note.lengthBeats;
    if (note.startBeat < kept - 1e-6) {
      // What is held to the bar line is held to the new one.
      const held = note.channel !== drumChannelIndex && note.lengthBeats >= 1.5 && end > 3.5;
      const lengthBeats = held ? quarters - note.startBeat - (4 - Math.min(4, end)) : note.lengthBeats;
      out.push({ ...note, lengthBeats: Math.max(0.05, Math.min(lengthBeats, quarters - note.startBeat)) });
      if (held) continue;
    }
    if (again && note.startBeat >= again[0] - 1e-6 && note.startBeat < again[1] - 1e-6) {
      const startBeat = 4 + note.startBeat - again[0];
      out.push({ ...note, startBeat, lengthBeats: Math.min(note.lengthBeats, quarters - startBeat) });
    }
  }
  return out;
}

/**
 * A loop in four as one in five or seven: every bar stops early or plays some of its beats again, in all parts alike. Chords are left out of its
 * truth. Other pieces come back as they are. @param piece a loop in 4/4 @param rarer in nine and eleven too, and two of five as a single bar
 */
export function withOddMeter(piece: Piece, chance: Chance, rarer = false): Piece {
  if (!piece.isLoop || piece.meter !== '4/4' || piece.style === 'fill') return piece;
  const meter = chance.weighted(rarer ? rarerMeters : oddMeters),
    quarters = quartersPerBar(meter),
    turn = turnOf(meter, chance),
    most = Math.floor(longestSeconds / ((quarters * 60) / piece.tempoBpm)),
    bars = rarer && chance.yes(0.4) ? 1 : Math.max(2, Math.min(piece.bars, most));
  const barOf = ({ notes }: Part, bar: number): Note[] =>
    notes
      .filter(({ startBeat }) => Math.floor(startBeat / 4 + 1e-3) === bar)
      .map((note) => ({ ...note, startBeat: Math.max(0, note.startBeat - bar * 4) }));
  const parts = piece.parts.map((part) => ({
    ...part,
    notes: Array.from({ length: bars }, (_, bar) =>
      turned(barOf(part, bar % piece.bars), turn).map((note) => ({ ...note, startBeat: note.startBeat + bar * quarters })),
    ).flat(),
  }));
  return parts.every(({ notes }) => notes.length) ? { ...piece, meter, bars, parts, chords: [] } : piece;
}
