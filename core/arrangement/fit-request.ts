import type { LoopKind } from '../analysis/facts';
import type { Family } from '../theory/instruments';
import { shiftToKey, type Key } from '../theory/key';
import type { StretchEngine } from '../stretch/fit';
import { framesPerBeat, projectRateHz } from '../units/time';

/** What fitting and scheduling need to know of a loop. */
export interface LoopSource {
  readonly loopId: number;
  readonly kind: LoopKind;
  readonly media: 'audio' | 'midi';
  /** Hash of the decoded sound, or of the MIDI file. */
  readonly soundSha: string;
  readonly soundFrames: number;
  readonly tempoBpm: number | null;
  readonly beats: number | null;
  readonly key: Key | null;
  readonly pitched: boolean | null;
  readonly family: Family | null;
  readonly instrument: string | null;
  readonly loudnessLufs: number | null;
  /** Frame of bar 1. */
  readonly startFrame: number;
  readonly onsetFrames: readonly number[];
}

/** Everything that determines the samples of a fitted loop; equal requests give equal buffers. */
export interface FitRequest {
  readonly kind: 'lap' | 'once' | 'notes';
  readonly soundSha: string;
  readonly startFrame: number;
  readonly sourceFrames: number;
  readonly targetFrames: number;
  readonly shiftSemitones: number;
  readonly engine: StretchEngine;
  readonly onsetFrames: readonly number[];
  /** For notes: how long a lap is in beats, and by which instrument it is played. */
  readonly beats: number;
  readonly instrument: string | null;
}

/** What was done to a loop, for saying it in words. */
export interface Fitted {
  readonly request: FitRequest;
  /** Exact length of a lap in frames; the buffer holds the nearest whole number. Infinity for what plays once. */
  readonly lapFrames: number;
  /** Beats of the project in a lap. */
  readonly lapBeats: number;
  /** −3.2 means played 3.2 % slower than recorded. */
  readonly speedPercent: number;
  readonly shiftSemitones: number;
  /** ½, 1 or 2: how the loop's tempo was read. */
  readonly reading: number;
}

/** The reading (half, as it is, double time) that needs the least change of speed; as it is wins a tie. */
export function chooseReading(loopTempoBpm: number, projectTempoBpm: number): number {
  const distance = (reading: number) => Math.abs(Math.log2((loopTempoBpm * reading) / projectTempoBpm));
  return [1, 2, 0.5].reduce((best, each) => (distance(each) < distance(best) - 1e-6 ? each : best));
}

/** Drums, percussion and unpitched sound keep their attacks; what has pitch keeps its tone. */
export function chooseEngine(loop: Pick<LoopSource, 'pitched' | 'family'>): StretchEngine {
  const struck = loop.family === 'drums' || loop.family === 'percussion' || loop.family === 'mix';
  return struck || loop.pitched !== true ? 'percussive' : 'tonal';
}

/** Semitones that key-following asks for: none for what has no key. */
export function keyShift(loop: Pick<LoopSource, 'key' | 'pitched' | 'family'>, projectKey: Key | null): number {
  if (!projectKey || !loop.key || loop.pitched === false || loop.family === 'drums') return 0;
  return shiftToKey(loop.key, projectKey);
}

export interface FitOptions {
  readonly tempoBpm: number;
  readonly key: Key | null;
  readonly followTempo: boolean;
  readonly followKey: boolean;
  readonly extraSemitones?: number;
}

/** How a loop is made to belong to a project. One-shots and phrases keep their speed and play once. */
export function fitLoop(loop: LoopSource, options: FitOptions): Fitted {
  const shiftSemitones = Math.max(-24, Math.min(24, (options.followKey ? keyShift(loop, options.key) : 0) + (options.extraSemitones ?? 0)));
  const beatFrames = framesPerBeat(options.tempoBpm, projectRateHz);
  const base = { soundSha: loop.soundSha, shiftSemitones, engine: chooseEngine(loop), instrument: loop.instrument, beats: loop.beats ?? 0 };
  const repeats = (loop.kind === 'loop' || loop.kind === 'full-mix') && loop.tempoBpm !== null && loop.beats !== null;
  if (!repeats) {
    const targetFrames = Math.max(1, loop.soundFrames);
    const request: FitRequest = {
      ...base,
      kind: 'once',
      startFrame: 0,
      sourceFrames: targetFrames,
      targetFrames,
      onsetFrames: loop.onsetFrames,
    };
    return { request, lapFrames: Infinity, lapBeats: targetFrames / beatFrames, speedPercent: 0, shiftSemitones, reading: 1 };
  }
  const loopTempoBpm = loop.tempoBpm as number,
    beats = loop.beats as number;
  const reading = options.followTempo ? chooseReading(loopTempoBpm, options.tempoBpm) : 1;
  const sourceExact = beats * framesPerBeat(loopTempoBpm, projectRateHz);
  const lapBeats = options.followTempo ? beats * reading : sourceExact / beatFrames;
  const lapFrames = options.followTempo ? lapBeats * beatFrames : sourceExact;
  const sourceFrames = Math.round(sourceExact),
    targetFrames = Math.max(1, Math.round(lapFrames));
  const onsetFrames = loop.onsetFrames.map((frame) => frame - loop.startFrame).filter((frame) => frame >= 0 && frame < sourceFrames);
  const request: FitRequest = {
    ...base,
    kind: loop.media === 'midi' ? 'notes' : 'lap',
    startFrame: loop.startFrame,
    sourceFrames,
    targetFrames,
    onsetFrames,
  };
  return { request, lapFrames, lapBeats, speedPercent: (sourceExact / lapFrames - 1) * 100, shiftSemitones, reading };
}

/** The name of a fitted buffer in caches. */
export function fitKey(request: FitRequest): string {
  return [
    request.kind,
    request.soundSha,
    request.startFrame,
    request.sourceFrames,
    request.targetFrames,
    request.shiftSemitones,
    request.engine,
    request.instrument ?? '',
  ].join(':');
}

/** `−3.2 %, up 2` — what was done to a candidate, said in numbers. */
export function describeFit(fitted: Fitted): string {
  const { speedPercent, shiftSemitones, reading, request } = fitted;
  const speed =
    request.kind === 'once'
      ? 'own speed'
      : Math.abs(speedPercent) < 0.05
        ? 'no stretch'
        : `${speedPercent < 0 ? '−' : '+'}${Math.abs(speedPercent).toFixed(1)} %`;
  const time = reading === 2 ? ', read as double time' : reading === 0.5 ? ', read as half time' : '';
  const shift = shiftSemitones === 0 ? 'same pitch' : `${shiftSemitones > 0 ? 'up' : 'down'} ${Math.abs(shiftSemitones)}`;
  return `${speed}${time}, ${shift}`;
}
