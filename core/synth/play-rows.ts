import { noteToHz } from '../units/pitch';
import { projectRateHz } from '../units/time';
import { kit } from './kit';
import { noteVoice } from './note-voices';
import { addPanned } from './play';
import { createRandom } from './random';

/** What of a request says which notes are played. */
export interface NoteRows {
  /** Rows of four, in frames from the start: when, how long, MIDI note, velocity. */
  readonly noteRows?: readonly number[];
  readonly isDrums?: boolean;
  readonly instrument: string | null;
  readonly targetFrames: number;
}

/** So many ways of striking the same note follow each other: enough that a repeated one sounds played, few enough that it need not be made anew. */
const waysOfStriking = 4,
  /** Notes that were made lately stay, up to so many frames in all: when one of many is changed, only that one is made. */
  mostKeptFrames = 8_000_000,
  endFadeFrames = 2205;

const kept = new Map<string, Float32Array>();
let keptFrames = 0;

function noteOnce(instrument: string | null, isDrums: boolean, pitch: number, velocity: number, frames: number, way: number): Float32Array {
  const name = `${isDrums ? 'kit' : instrument} ${pitch} ${velocity} ${frames} ${way}`,
    known = kept.get(name);
  if (known) {
    kept.delete(name);
    kept.set(name, known);
    return known;
  }
  const piece = isDrums ? pieceOf(pitch) : null,
    sound = (piece?.voice ?? noteVoice(instrument))({
      hz: piece ? piece.hz : noteToHz(pitch),
      velocity: velocity / 127,
      heldSeconds: frames / projectRateHz,
      rateHz: projectRateHz,
      tone: 0.5,
      random: createRandom((pitch * 128 + velocity) * waysOfStriking + way + 1),
    });
  kept.set(name, sound);
  keptFrames += sound.length;
  for (const [oldest, old] of kept) {
    if (keptFrames <= mostKeptFrames) break;
    kept.delete(oldest);
    keptFrames -= old.length;
  }
  return sound;
}

/** What a percussion key plays; keys that our kit lacks play its wood block. */
const pieceOf = (pitch: number) => kit[pitch] ?? kit[76];

/** Plays notes into stereo, each to its end or the end of the buffer, where what still rings goes softly. Same rows, same samples. */
export function playRows({ noteRows = [], isDrums = false, instrument, targetFrames }: NoteRows): [Float32Array, Float32Array] {
  const out: [Float32Array, Float32Array] = [new Float32Array(targetFrames), new Float32Array(targetFrames)],
    struck = new Map<number, number>();
  for (let row = 0; row + 3 < noteRows.length; row += 4) {
    const [start, frames, pitch, velocity] = noteRows.slice(row, row + 4),
      way = struck.get(pitch) ?? 0,
      piece = isDrums ? pieceOf(pitch) : null;
    struck.set(pitch, (way + 1) % waysOfStriking);
    addPanned(
      out,
      noteOnce(instrument, isDrums, pitch, velocity, frames, way),
      start,
      piece?.gain ?? 0.6,
      piece?.pan ?? (pitch - 60) / 160,
      false,
    );
  }
  const fade = Math.min(endFadeFrames, targetFrames);
  for (const plane of out) for (let i = 1; i <= fade; i++) plane[targetFrames - i] *= (i - 1) / fade;
  return out;
}
