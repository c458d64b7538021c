import { lowestNote, noteCount, type NoteFrames } from '../../core/analysis/notes/note-fit';
import { drumChannelIndex } from '../../core/synth/play';
import type { Chance } from './chance';
import { pieceSeconds, quarterBpm, type Part, type Piece } from './piece';

const hopSeconds = 0.05;

/** How one part comes out of the fit of notes: how long it rings, and which ghosts stand beside its notes. */
interface Ringing {
  readonly decaySeconds: number;
  readonly releaseSeconds: number;
  /** Level of what is heard beside a note, by semitones away from it. */
  readonly ghosts: readonly (readonly [semitones: number, level: number])[];
}

const ringing = (chance: Chance): Ringing => ({
  decaySeconds: chance.weighted([
    [chance.ratio(0.15, 1.5), 5],
    [30, 5],
  ]),
  releaseSeconds: chance.ratio(0.02, 0.6),
  ghosts: [
    // Octave, twelfth and the octave above that are its own partials; half of its frequency explains it as well.
    [12, chance.between(0, 0.6) ** 2],
    [19, chance.between(0, 0.5) ** 2],
    [24, chance.between(0, 0.4) ** 2],
    [28, chance.between(0, 0.35) ** 2],
    [-12, chance.between(0, 0.4) ** 2],
    [1, chance.between(0, 0.25) ** 2],
    [-1, chance.between(0, 0.25) ** 2],
  ],
});

function lay(strengths: Float32Array, frameCount: number, part: Part, quarterSeconds: number, chance: Chance): void {
  const { decaySeconds, releaseSeconds, ghosts } = ringing(chance),
    loose = chance.between(0, 0.5);
  for (const { startBeat, lengthBeats, pitch, velocity } of part.notes) {
    const start = startBeat * quarterSeconds,
      end = start + lengthBeats * quarterSeconds,
      level = part.gain * (velocity / 127) * Math.exp(chance.normal(loose * 0.5));
    for (let frame = Math.max(0, Math.round(start / hopSeconds)); frame < frameCount; frame++) {
      const at = frame * hopSeconds,
        heard = level * Math.exp(-Math.max(0, at - start) / decaySeconds) * (at > end ? Math.exp(-(at - end) / releaseSeconds) : 1);
      if (heard < level * 0.01) break;
      const put = (note: number, strength: number) => {
        const row = note - lowestNote;
        if (row >= 0 && row < noteCount) strengths[frame * noteCount + row] += strength;
      };
      put(pitch, heard);
      for (const [semitones, share] of ghosts)
        // Low notes lie closer than a spectrum tells apart.
        put(pitch + semitones, heard * share * (Math.abs(semitones) === 1 && pitch < 45 ? 4 : 1));
    }
  }
}

/**
 * The notes of a piece as the fit of notes would find them in its sound, without the sound: each rings and dies away, with ghosts at its
 * partials and beside it, over a floor of noise. A key is learnt from harmony, of which far more can be written than rendered.
 */
export function notesAsHeard(piece: Piece, chance: Chance): NoteFrames {
  const quarterSeconds = 60 / quarterBpm(piece),
    frameCount = Math.max(1, Math.ceil(pieceSeconds(piece) / hopSeconds)),
    strengths = new Float32Array(frameCount * noteCount),
    tuned = piece.parts.filter(({ notes }) => notes[0]?.channel !== drumChannelIndex);
  for (const part of tuned) lay(strengths, frameCount, part, quarterSeconds, chance);
  const most = strengths.reduce((a, b) => Math.max(a, b), 0),
    floor = most * chance.between(0, tuned.length < piece.parts.length ? 0.12 : 0.05);
  for (let k = 0; k < strengths.length; k++) if (chance.yes(0.15)) strengths[k] += floor * chance.unit() ** 2;
  return { hopSeconds, frameCount, strengths, broad: new Float32Array(frameCount), residual: 0 };
}
