import { notesOfTrack, type HeardNote } from '../analysis/melody/melody';
import { trackPitch, type PitchTrack } from '../analysis/melody/pitch-track';
import { fitCycle, fitOnce } from '../stretch/fit';
import { monoOf, moveLine } from '../stretch/moved-line';
import type { Key } from '../theory/key';
import { scaleClasses } from '../theory/scale';
import { pitchClass } from '../units/pitch';
import { projectRateHz } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';

/** The whole of a sound by semitones and cents. */
export interface RetuneStep {
  readonly kind: 'retune';
  /** Hundredths are cents. */
  readonly semitones: number;
  /** Formants go where the pitch goes, unless they are kept; kept, they may be moved by so much. */
  readonly keepsFormants: boolean;
  readonly formantSemitones: number;
}

/** Moves the whole of a sound in pitch; it stays as long as it is. */
export function retune(sound: BenchSound, { semitones, keepsFormants, formantSemitones }: RetuneStep): BenchSound {
  const plan = {
    stretchMode: keepsFormants ? ('voice' as const) : ('tonal' as const),
    targetFrames: framesOf(sound),
    shiftSemitones: semitones,
    formantSemitones: keepsFormants ? formantSemitones : 0,
    beats: sound.beats ?? 0,
  };
  return { ...sound, channels: (sound.isCycle ? fitCycle : fitOnce)(sound.channels, sound.onsetFrames, plan) };
}

/** A single line note by note. */
export interface LineStep {
  readonly kind: 'line';
  /** 0 as it was sung … 1 in the middle of the note. */
  readonly strength: number;
  /** 0: it drifts and swings within a note as it did … 1: held straight. */
  readonly straightness: number;
  /** Notes of a key only; null: the nearest of all twelve. */
  readonly key: Key | null;
  /** By hand: so many semitones from the note it is drawn to, by the number of the note. */
  readonly moves: Readonly<Record<number, number>>;
  readonly formantSemitones: number;
}

export interface Line {
  readonly track: PitchTrack;
  readonly notes: readonly HeardNote[];
}

/** The line that a single voice sings or plays, for drawing and for moving it; against A4 = 440 Hz. */
export function lineOf({ channels, onsetFrames }: Pick<BenchSound, 'channels' | 'onsetFrames'>): Line {
  const track = trackPitch(monoOf(channels), projectRateHz);
  return {
    track,
    notes: notesOfTrack(
      track,
      onsetFrames.map((frame) => frame / projectRateHz),
      0,
    ),
  };
}

/** The note of a key that is nearest to a pitch, as a MIDI note. @example nearestIn({ tonic: 0, mode: 'minor' }, 64.2) // => 63 */
export function nearestIn(key: Key | null, pitch: number): number {
  if (!key) return Math.round(pitch);
  const inKey = new Set(scaleClasses(key)),
    near = [0, -1, 1, -2, 2].map((away) => Math.round(pitch) + away).filter((note) => inKey.has(pitchClass(note)));
  return near.reduce((best, note) => (Math.abs(note - pitch) < Math.abs(best - pitch) ? note : best), near[0]);
}

/** Where a note is held, and by how far it is moved as a whole, semitones. */
export function moveOfNote(
  { pitch, cents }: HeardNote,
  index: number,
  { strength, key, moves }: LineStep,
): { readonly held: number; readonly by: number } {
  const held = pitch + cents / 100,
    hand = moves[index];
  return { held, by: (nearestIn(key, held) + (hand ?? 0) - held) * (hand === undefined ? strength : 1) };
}

/** Draws a line to its notes: pauses and breath stay as they are, and every note begins where it began. */
export function retuneLine(sound: BenchSound, step: LineStep): BenchSound {
  const { track, notes } = lineOf(sound),
    moves = notes.map((note, index) => {
      const { held, by } = moveOfNote(note, index, step);
      return {
        fromFrame: note.startSeconds * projectRateHz,
        toFrame: (note.startSeconds + note.lengthSeconds) * projectRateHz,
        semitones: by,
        held,
      };
    });
  return { ...sound, channels: moveLine(sound.channels, track, moves, step.straightness, step.formantSemitones) };
}
