import { assertPositive } from './assert';

/** The rate at which everything is decoded, fitted, mixed and heard. */
export const projectRateHz = 44100;

/** Beats to seconds. @example beatsToSeconds(16, 120) // => 8 */
export function beatsToSeconds(beats: number, tempoBpm: number): number {
  assertPositive('tempoBpm', tempoBpm);
  return (beats * 60) / tempoBpm;
}

/** Seconds to beats. @example secondsToBeats(8, 120) // => 16 */
export function secondsToBeats(seconds: number, tempoBpm: number): number {
  assertPositive('tempoBpm', tempoBpm);
  return (seconds * tempoBpm) / 60;
}

/** The tempo at which `beats` fill `seconds`. @example tempoFromLength(16, 8) // => 120 */
export function tempoFromLength(beats: number, seconds: number): number {
  assertPositive('beats', beats);
  assertPositive('seconds', seconds);
  return (beats * 60) / seconds;
}

/** Length of a beat in frames; not a whole number in general. @example framesPerBeat(120, 44100) // => 22050 */
export function framesPerBeat(tempoBpm: number, sampleRateHz: number): number {
  return beatsToSeconds(1, tempoBpm) * sampleRateHz;
}

/** The whole frame nearest to a beat. The schedule keeps exact frames as long as it can and rounds each edge for itself, the same way. */
export function beatToFrame(beat: number, tempoBpm: number, sampleRateHz: number): number {
  return Math.round(beat * framesPerBeat(tempoBpm, sampleRateHz));
}

/** Frames to beats. */
export function framesToBeats(frames: number, tempoBpm: number, sampleRateHz: number): number {
  return secondsToBeats(frames / sampleRateHz, tempoBpm);
}

/** How fast a loop must run to be at the project's tempo. @example playbackRate(124, 120) // => 0.9677… */
export function playbackRate(loopTempoBpm: number, projectTempoBpm: number): number {
  assertPositive('loopTempoBpm', loopTempoBpm);
  return projectTempoBpm / loopTempoBpm;
}

/** Change of speed in percent: −3.2 means played 3.2 % slower. */
export function speedChangePercent(loopTempoBpm: number, projectTempoBpm: number): number {
  return (playbackRate(loopTempoBpm, projectTempoBpm) - 1) * 100;
}

export interface Meter {
  readonly beatsPerBar: number;
  readonly beatUnit: number;
}

/** Meters that a piece, or a loop by somebody's word, can have here. */
export const meters = ['4/4', '3/4', '6/8', '5/4', '7/4'] as const;

/** Reads `4/4`, `3/4`, `6/8`. In 6/8 a *beat* is the dotted quarter, two a bar. @returns null for anything else */
export function parseMeter(text: string): Meter | null {
  const match = /^(\d{1,2})\/(2|4|8|16)$/.exec(text.trim());
  if (!match || Number(match[1]) === 0) return null;
  return { beatsPerBar: Number(match[1]), beatUnit: Number(match[2]) };
}

/** Counted beats in a bar: 4 for 4/4, 3 for 3/4, 2 dotted quarters for 6/8. Unknown meters count as 4. */
export function beatsPerBar(meter: string): number {
  const parsed = parseMeter(meter);
  if (!parsed) return 4;
  if (parsed.beatUnit === 8 && parsed.beatsPerBar % 3 === 0) return parsed.beatsPerBar / 3;
  return parsed.beatsPerBar;
}

/** Beats of a bar of a loop: by its bars where they are known, for not every meter has a name. */
export function loopBarBeats({ beats, bars, meter }: { beats: number | null; bars: number | null; meter: string | null }): number {
  return beats && bars ? beats / bars : beatsPerBar(meter ?? '4/4');
}

/** Quarters in a counted beat: 1.5 in 6/8, whose beat is the dotted quarter, ½ in 7/8. Unknown meters count quarters. */
export function quartersPerBeat(meter: string): number {
  const parsed = parseMeter(meter);
  return parsed ? ((4 / parsed.beatUnit) * parsed.beatsPerBar) / beatsPerBar(meter) : 1;
}

/** Musician's position of a beat, counted from 1. @example beatToPosition(16, 4) // => { bar: 5, beat: 1 } */
export function beatToPosition(beat: number, barBeats: number): { bar: number; beat: number } {
  const bar = Math.floor(beat / barBeats + 1e-9);
  return { bar: bar + 1, beat: Math.floor(beat - bar * barBeats + 1e-9) + 1 };
}
