import { trackPitch, type PitchTrack } from '../analysis/melody/pitch-track';
import { hzToNote, noteToHz, semitonesToRatio } from '../units/pitch';
import { projectRateHz } from '../units/time';
import { findPeriods, movePeriods } from './psola';
import { atLevelOf } from './voice';

/** A stretch of a single line that is moved as a whole. */
export interface LineMove {
  readonly fromFrame: number;
  readonly toFrame: number;
  readonly semitones: number;
  /** The pitch at which it is held, as a MIDI note with fraction, where drift is flattened. */
  readonly held?: number;
}

/** Over so long a move comes in at the start of a note, and goes at its end. */
const easeSeconds = 0.012;

/** The middle of two channels, or the one there is. */
export const monoOf = (channels: readonly Float32Array[]): Float32Array =>
  channels.length === 1 ? channels[0] : channels[0].map((value, i) => (value + channels[1][i]) / 2);

/**
 * Moves notes of a single line, each by its own semitones, its character kept (pitch-synchronous overlap and add). What lies between them stays.
 * @param straightness 0: notes drift and swing as they did … 1: held straight
 */
export function moveLine(
  channels: readonly Float32Array[],
  track: PitchTrack,
  moves: readonly LineMove[],
  straightness = 0,
  formantSemitones = 0,
): Float32Array[] {
  const hop = track.hopSeconds * projectRateHz,
    periodAt = (frame: number): number => {
      const note = track.notes[Math.min(track.frameCount - 1, Math.round(frame / hop))];
      return note > 0 ? projectRateHz / noteToHz(note) : 0;
    },
    moveAt = (frame: number) => moves.find(({ fromFrame, toFrame }) => frame >= fromFrame && frame < toFrame),
    ease = easeSeconds * projectRateHz,
    ratioAt = (frame: number, periodFrames: number): number => {
      // Between notes the move goes over, and does not jump.
      const whole = [-ease / 2, 0, ease / 2].reduce((sum, away) => sum + (moveAt(frame + away)?.semitones ?? 0) / 3, 0),
        held = moveAt(frame)?.held,
        off = held === undefined ? 0 : hzToNote(projectRateHz / periodFrames) - held;
      // What is far off is on its way to another note.
      return semitonesToRatio(whole - (Math.abs(off) > 1.5 ? 0 : off * straightness));
    },
    made = movePeriods(channels, findPeriods(monoOf(channels), periodAt), ratioAt, semitonesToRatio(formantSemitones));
  // Longer or shorter periods lie on each other more or less.
  return formantSemitones === 0 ? made : atLevelOf(channels, made);
}

/** The same where the pitch is not known yet. */
export const moveLineIn = (channels: readonly Float32Array[], moves: readonly LineMove[]): Float32Array[] =>
  moves.length === 0 ? [...channels] : moveLine(channels, trackPitch(monoOf(channels), projectRateHz), moves);
