import { playedAs } from '../../theory/instruments';
import { projectRateHz } from '../../units/time';
import type { FitRequest } from '../fit-request';
import { ringSeconds } from './rings';

/** A single note of an instrument, or of the kit, to be heard while it is written. */
export function oneNote(
  { pitch, velocity }: { readonly pitch: number; readonly velocity: number },
  instrument: string | null,
  isDrums: boolean,
  seconds = 0.35,
): FitRequest {
  const played = isDrums ? null : playedAs(instrument),
    frames = Math.round(seconds * projectRateHz);
  return patternRequest([0, frames, pitch, velocity], frames, played, isDrums);
}

/** Rows of notes as a request; they ring out behind `lastFrame`. */
export const patternRequest = (
  noteRows: readonly number[],
  lastFrame: number,
  instrument: string | null,
  isDrums: boolean,
): FitRequest => ({
  kind: 'pattern',
  soundSha: '',
  startFrame: 0,
  sourceFrames: 0,
  targetFrames: lastFrame + Math.round(ringSeconds(instrument, isDrums) * projectRateHz),
  shiftSemitones: 0,
  stretchMode: 'plain',
  onsetFrames: [],
  beats: 0,
  instrument,
  noteRows,
  isDrums,
});
