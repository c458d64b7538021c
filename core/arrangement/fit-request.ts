import type { LoopKind } from '../analysis/attributes/loop-kinds';
import { playedAs, type Family } from '../theory/instruments';
import { shiftToKey, type Key } from '../theory/key';
import type { StretchMode } from '../stretch/stretch-modes';
import { withFaintHits } from '../stretch/faint-hits';
import { semitonesToRatio } from '../units/pitch';
import { framesPerBeat, playbackRate, projectRateHz } from '../units/time';
import { noOverrides, type FitDefaults, type ClipOverrides } from './fit-settings';
import type { LoopHarmony } from './harmony/loop-harmony';

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
  /** Where something may begin that is too soft to be a hit for sure. */
  readonly faintFrames?: readonly number[];
  /** Where a sound that plays once lands. */
  readonly landingFrame?: number | null;
  /** Whether it leads into what follows: it lands where it ends. */
  readonly isFill?: boolean;
  /** Beats of a bar. */
  readonly barBeats: number;
  /** Frame at which each beat was played, where the player's time wanders; one more for the end. */
  readonly beatFrames?: readonly number[];
  readonly fitDefaults?: FitDefaults;
  /** Its chords and notes, where it has any. */
  readonly harmony?: LoopHarmony;
}

/** A loop without its hits and beats: enough for words, lists and where it would fit, not for hearing it. */
export type LoopOutline = Omit<LoopSource, 'onsetFrames' | 'faintFrames' | 'beatFrames' | 'harmony'>;

/** Everything that determines the samples of a fitted loop; equal requests give equal buffers. */
export interface FitRequest {
  /** A cycle goes round; what plays once does not. Notes are played, whichever; those of a pattern lie in the request itself. */
  readonly kind: 'cycle' | 'once' | 'notes' | 'notes-once' | 'pattern';
  readonly soundSha: string;
  readonly startFrame: number;
  readonly sourceFrames: number;
  readonly targetFrames: number;
  readonly shiftSemitones: number;
  readonly stretchMode: StretchMode;
  readonly onsetFrames: readonly number[];
  /** How long a cycle is in beats; 0 for what is none. */
  readonly beats: number;
  /** For notes: by which instrument they are played. */
  readonly instrument: string | null;
  /** What rings on behind the cycle: folded in, left away, or folded in when it is no further music. */
  readonly tail?: 'wrap' | 'cut';
  /** Frame of the cycle at which each beat was played, when it is drawn onto the grid. */
  readonly markFrames?: readonly number[];
  readonly formantSemitones?: number;
  readonly reverse?: boolean;
  /** Notes of a single line that are moved by themselves first: rows of three, in frames of the sound and semitones: from, to, by how much. */
  readonly noteMoves?: readonly number[];
  /** For notes of a project: rows of four, in frames from the start: when, how long, MIDI note, velocity. */
  readonly noteRows?: readonly number[];
  /** Whether those are played by the kit. */
  readonly isDrums?: boolean;
}

/** What was done to a loop, for saying it in words. */
export interface Fitted {
  readonly request: FitRequest;
  /** Exact length of a cycle in frames; the buffer holds the nearest whole number. Infinity for what plays once. */
  readonly cycleFrames: number;
  /** Beats of the project in a cycle. */
  readonly cycleBeats: number;
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

/**
 * The stretchMode for a loop: what its people chose, else by its facts. What is struck keeps its attacks, what has a pitch its tone, a voice its
 * character; drums that have a pitch too, and mixes, are both.
 */
export function chooseStretchMode(loop: Pick<LoopSource, 'pitched' | 'family' | 'fitDefaults'>): StretchMode {
  if (loop.fitDefaults?.stretchMode) return loop.fitDefaults.stretchMode;
  if (loop.family === 'mix') return 'mixed';
  if (loop.family === 'drums' || loop.family === 'percussion')
    return loop.pitched === true && loop.family === 'drums' ? 'mixed' : 'percussive';
  if (loop.pitched !== true) return 'percussive';
  return loop.family === 'voice' ? 'voice' : 'tonal';
}

type Keyed = Pick<LoopSource, 'key' | 'pitched' | 'family'>;

/** The key in which a loop is, where it is one that can be brought into another: drums keep their pitch. */
export const movableKey = ({ key, pitched, family }: Keyed): Key | null => (pitched === false || family === 'drums' ? null : key);

/** Semitones that key-following asks for: none for what has no key. */
export function keyShift(loop: Keyed, projectKey: Key | null): number {
  const key = movableKey(loop);
  return projectKey && key ? shiftToKey(key, projectKey) : 0;
}

export interface FitOptions {
  readonly tempoBpm: number;
  readonly key: Key | null;
  readonly followTempo: boolean;
  readonly followKey: boolean;
  readonly overrides?: Partial<ClipOverrides>;
  /** What chords ask for, beyond the key. */
  readonly chordSemitones?: number;
  readonly noteMoves?: readonly number[];
}

/**
 * How a loop is made to belong to a project. One-shots and phrases play once; they keep their length under a shift, unless somebody chose the
 * tape for them. A one-shot has no tempo; a phrase whose tempo a person gave follows the project's.
 */
export function fitLoop(loop: LoopSource, options: FitOptions): Fitted {
  const overrides: ClipOverrides = { ...noOverrides, ...options.overrides },
    stretchMode = overrides.stretchMode ?? chooseStretchMode(loop),
    wantedSemitones =
      (options.followKey && stretchMode !== 'plain' ? keyShift(loop, options.key) : 0) +
      (options.chordSemitones ?? 0) +
      overrides.shiftSemitones,
    shiftSemitones = Math.max(-24, Math.min(24, wantedSemitones)),
    beatFrames = framesPerBeat(options.tempoBpm, projectRateHz),
    base = {
      soundSha: loop.soundSha,
      shiftSemitones,
      stretchMode,
      instrument: playedAs(overrides.instrument ?? loop.instrument),
      ...(options.noteMoves && options.noteMoves.length > 0 ? { noteMoves: options.noteMoves } : {}),
      beats: loop.beats ?? 0,
      formantSemitones: stretchMode === 'voice' ? overrides.formantSemitones : 0,
      reverse: overrides.reverse,
    };
  const repeats = (loop.kind === 'loop' || loop.kind === 'full-mix') && loop.tempoBpm !== null && loop.beats !== null;
  if (!repeats) return fitSingle(loop, { ...options, overrides }, base, beatFrames);
  const loopTempoBpm = loop.tempoBpm as number,
    allBeats = loop.beats as number,
    beats = overrides.firstBars === null ? allBeats : Math.min(allBeats, overrides.firstBars * loop.barBeats),
    reading = (options.followTempo ? chooseReading(loopTempoBpm, options.tempoBpm) : 1) / overrides.speedRatio,
    sourceExact = beats * framesPerBeat(loopTempoBpm, projectRateHz),
    cycleBeats = options.followTempo ? beats * reading : (sourceExact / beatFrames) * reading,
    cycleFrames = options.followTempo ? cycleBeats * beatFrames : sourceExact * reading,
    sourceFrames = Math.round(sourceExact),
    targetFrames = Math.max(1, Math.round(cycleFrames)),
    inCycle = (frames: readonly number[]) =>
      frames.map((frame) => frame - loop.startFrame).filter((frame) => frame >= 0 && frame < sourceFrames),
    clearFrames = inCycle(loop.onsetFrames);
  const request: FitRequest = {
    ...base,
    beats,
    kind: loop.media === 'midi' ? 'notes' : 'cycle',
    startFrame: loop.startFrame,
    sourceFrames,
    targetFrames,
    onsetFrames:
      stretchMode === 'percussive'
        ? withFaintHits(clearFrames, inCycle(loop.faintFrames ?? []), sourceFrames, beats, projectRateHz)
        : clearFrames,
    // Behind a part of a loop there is further music, no tail.
    tail: beats < allBeats ? 'cut' : loop.fitDefaults?.tail,
    markFrames: marksOf(loop, beats, overrides.gridStrength ?? loop.fitDefaults?.gridStrength ?? 0),
  };
  return { request, cycleFrames, cycleBeats, speedPercent: (sourceExact / cycleFrames - 1) * 100, shiftSemitones, reading };
}

function fitSingle(
  loop: LoopSource,
  { tempoBpm, followTempo, overrides }: FitOptions & { readonly overrides: ClipOverrides },
  base: Omit<FitRequest, 'kind' | 'startFrame' | 'sourceFrames' | 'targetFrames' | 'onsetFrames'>,
  beatFrames: number,
): Fitted {
  const sourceFrames = Math.max(1, loop.soundFrames),
    ownTempoBpm = followTempo && loop.kind === 'phrase' ? loop.tempoBpm : null,
    reading = (ownTempoBpm === null ? 1 : chooseReading(ownTempoBpm, tempoBpm)) / overrides.speedRatio,
    // On a tape the pitch goes with the speed, and so does how long it lasts.
    tape = base.stretchMode === 'plain' && loop.media === 'audio' ? semitonesToRatio(base.shiftSemitones) : 1,
    lengthRatio = ((ownTempoBpm === null ? 1 : 1 / playbackRate(ownTempoBpm, tempoBpm)) * reading) / tape,
    targetFrames = Math.max(1, Math.round(sourceFrames * lengthRatio)),
    request: FitRequest = {
      ...base,
      kind: loop.media === 'midi' ? 'notes-once' : 'once',
      beats: 0,
      startFrame: 0,
      sourceFrames,
      targetFrames,
      onsetFrames: loop.onsetFrames,
    };
  return {
    request,
    cycleFrames: Infinity,
    cycleBeats: targetFrames / beatFrames,
    speedPercent: (1 / lengthRatio - 1) * 100,
    shiftSemitones: base.shiftSemitones,
    reading,
  };
}

/** Where in the cycle its beats were played, drawn from even time towards the player's by `strength`; empty when that is even. */
function marksOf({ beatFrames, tempoBpm, startFrame }: LoopSource, beats: number, strength: number): number[] {
  if (!beatFrames || beatFrames.length < beats || !tempoBpm || strength <= 0 || !Number.isInteger(beats)) return [];
  const evenFrames = framesPerBeat(tempoBpm, projectRateHz);
  return Array.from({ length: beats }, (_, beat) => {
    const even = beat * evenFrames;
    return Math.round(even + strength * (beatFrames[beat] - startFrame - even));
  });
}

type Landing = Pick<LoopSource, 'kind' | 'instrument' | 'landingFrame' | 'isFill'>;

const landsOnce = ({ kind, instrument, isFill }: Landing): boolean =>
  kind !== 'loop' && kind !== 'full-mix' && (instrument === 'riser' || instrument === 'impact' || isFill === true);

/** Whether a loop is placed by where it lands, not by where it begins: what rises to a line, strikes on it behind a breath, or leads up to it. */
export const lands = (loop: Landing): boolean => landsOnce(loop) || (loop.kind === 'loop' && loop.isFill === true);

/** Where in its sound what plays once lands. Where nothing is known of it, what strikes does so at its start, the others land at their end. */
function landingInSound({ instrument, landingFrame, isFill }: Landing, sourceFrames: number): number {
  return Math.min(sourceFrames, landingFrame ?? (isFill || instrument === 'riser' ? sourceFrames : 0));
}

/** Where in its cycle a fill that goes round lands, in beats of the piece: at its end, unless somebody says otherwise. */
export function fillLandsAtBeat(loop: Pick<LoopSource, 'landingFrame' | 'startFrame'>, { request, cycleBeats }: Fitted): number {
  const into = loop.landingFrame == null ? 1 : (loop.landingFrame - loop.startFrame) / request.sourceFrames,
    share = Math.max(0, Math.min(1, into));
  return cycleBeats * (request.reverse ? 1 - share : share);
}

/**
 * Where in what is rendered of a loop that plays once its landing lies, in frames, at any speed and both ways round; null for what goes round or is
 * placed by its start.
 */
export function landingFrames(loop: Landing, { request }: Pick<Fitted, 'request'>): number | null {
  if (!landsOnce(loop)) return null;
  const at = Math.round((landingInSound(loop, request.sourceFrames) / request.sourceFrames) * request.targetFrames);
  return request.reverse ? request.targetFrames - at : at;
}

/** The same in beats of a tempo. */
export function landingBeats(loop: Landing, fitted: Fitted, tempoBpm: number): number | null {
  const frames = landingFrames(loop, fitted);
  return frames === null ? null : frames / framesPerBeat(tempoBpm, projectRateHz);
}

const namesOfRequests = new WeakMap<FitRequest, string>();

/** The name of a fitted buffer in caches: the whole request, so that what differs in anything is never taken for it. */
export function fitKey(request: FitRequest): string {
  let name = namesOfRequests.get(request);
  if (name === undefined) {
    name = Object.keys(request)
      .sort()
      .map((field) => request[field as keyof FitRequest] ?? '')
      .join(':');
    namesOfRequests.set(request, name);
  }
  return name;
}

/** `−3.2 %, up 2` — what was done to a candidate, said in numbers. */
export function describeFit(fitted: Fitted): string {
  const { speedPercent, shiftSemitones, reading, request } = fitted;
  const speed =
    Math.abs(speedPercent) < 0.05
      ? Number.isFinite(fitted.cycleFrames)
        ? 'no stretch'
        : 'own length'
      : `${speedPercent < 0 ? '−' : '+'}${Math.abs(speedPercent).toFixed(1)} %`;
  const time = reading === 2 ? ', read as double time' : reading === 0.5 ? ', read as half time' : '';
  if (request.stretchMode === 'plain' && (request.kind === 'cycle' || request.kind === 'once'))
    return `${speed}${time}, pitch with the speed`;
  const shift =
    shiftSemitones === 0 ? 'same pitch' : `${shiftSemitones > 0 ? 'up' : 'down'} ${Number(Math.abs(shiftSemitones).toFixed(2))}`;
  return `${speed}${time}, ${shift}`;
}
