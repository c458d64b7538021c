import { notesOfTrack, type HeardNote } from '../analysis/melody/melody';
import { trackPitch, type PitchTrack } from '../analysis/melody/pitch-track';
import { fitCycle, fitOnce } from '../stretch/fit';
import { atLevelOf } from '../stretch/voice';
import type { Key } from '../theory/key';
import { scaleSemitones } from '../theory/scale';
import { hzToNote, noteToHz, pitchClass, semitonesToRatio } from '../units/pitch';
import { projectRateHz } from '../units/time';
import { framesOf, type BenchSound } from './bench-sound';
import { findPeriods, movePeriods } from './psola';

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

const monoOf = (channels: readonly Float32Array[]): Float32Array =>
  channels.length === 1 ? channels[0] : channels[0].map((value, i) => (value + channels[1][i]) / 2);

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
  const inKey = new Set(scaleSemitones(key.mode).map((step) => (step + key.tonic) % 12)),
    near = [0, -1, 1, -2, 2].map((away) => Math.round(pitch) + away).filter((note) => inKey.has(pitchClass(note)));
  return near.reduce((best, note) => (Math.abs(note - pitch) < Math.abs(best - pitch) ? note : best), near[0]);
}

/** Over so long a move comes in at the start of a note, and goes at its end. */
const easeSeconds = 0.012;

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
    hop = track.hopSeconds * projectRateHz,
    moves = notes.map((note, index) => ({
      fromFrame: note.startSeconds * projectRateHz,
      toFrame: (note.startSeconds + note.lengthSeconds) * projectRateHz,
      ...moveOfNote(note, index, step),
    })),
    periodAt = (frame: number): number => {
      const note = track.notes[Math.min(track.frameCount - 1, Math.round(frame / hop))];
      return note > 0 ? projectRateHz / noteToHz(note) : 0;
    },
    noteAt = (frame: number) => moves.find(({ fromFrame, toFrame }) => frame >= fromFrame && frame < toFrame),
    ease = easeSeconds * projectRateHz,
    ratioAt = (frame: number, periodFrames: number): number => {
      // Between notes the move goes over, and does not jump.
      const whole = [-ease / 2, 0, ease / 2].reduce((sum, away) => sum + (noteAt(frame + away)?.by ?? 0) / 3, 0),
        here = noteAt(frame),
        off = here ? hzToNote(projectRateHz / periodFrames) - here.held : 0;
      // What is far off is on its way to another note.
      return semitonesToRatio(whole - (Math.abs(off) > 1.5 ? 0 : off * step.straightness));
    };
  const made = movePeriods(sound.channels, findPeriods(monoOf(sound.channels), periodAt), ratioAt, semitonesToRatio(step.formantSemitones));
  // Longer or shorter periods lie on each other more or less.
  return { ...sound, channels: step.formantSemitones === 0 ? made : atLevelOf(sound.channels, made) };
}
