import { framesPerBeat, projectRateHz } from '../units/time';
import { dbToRatio } from '../units/level';
import { sameKey } from '../theory/key';
import type { Envelope } from './envelope';
import { fitKey, type Fitted, type FitRequest, type LoopSource } from './fit-request';
import type { Pattern } from './pattern/pattern';
import { planNotes } from './pattern/plan-notes';
import { planClip, type Segment } from './plan';
import { audibleTracks, ofLoop, patternOf, type Clip, type Project } from './tree';

/** A stretch of time in which one buffer sounds. Frames count from beat 0 of the project. */
export interface SoundEvent {
  readonly id: string;
  readonly trackId: string;
  readonly bufferKey: string;
  readonly startFrame: number;
  /** Exclusive; the fade-out lies behind it. */
  readonly endFrame: number;
  /** Frame of the buffer at `startFrame`; the buffer goes round when `cyclic`. */
  readonly offsetFrame: number;
  readonly cyclic: boolean;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  readonly gainRatio: number;
  /** Of its clip, where that comes up or goes down by itself; beside its own short fades. */
  readonly envelope?: Envelope;
}

export interface Schedule {
  readonly events: readonly SoundEvent[];
  readonly requests: ReadonlyMap<string, FitRequest>;
  readonly endFrame: number;
}

/** Edges of a clip: short enough to keep an attack, long enough not to click. */
const clipFadeInFrames = 16,
  clipFadeOutFrames = 128;
/** Where a repetition is re-aligned by one frame, the two copies are crossfaded over this many. */
const realignFadeFrames = 64;
/** Where a loop goes over into itself moved otherwise, the two are crossfaded right before the line, so that what begins on it is whole. */
export const joinFadeFrames = 441;

/**
 * What sounds when: the one function that the engine, the mixdown and the tests follow. Clips of loops that are not in
 * `sources` are left out. A repetition's exact length is seldom a whole number of frames; the buffer goes round on its own until it
 * would be off by a frame, and is then started anew, so that nothing is ever more than a frame away from its beat.
 */
export function scheduleProject(project: Project, sources: ReadonlyMap<number, LoopSource>): Schedule {
  const events: SoundEvent[] = [],
    requests = new Map<string, FitRequest>();
  for (const track of audibleTracks(project))
    for (const clip of track.clips)
      for (const event of scheduledOnce(clip, track.id, patternOf(project, clip) ?? ofLoop(sources, clip) ?? null, project)) {
        requests.set(event.bufferKey, event.request);
        events.push(event);
      }
  events.sort((a, b) => a.startFrame - b.startFrame || (a.id < b.id ? -1 : 1));
  return { events, requests, endFrame: events.reduce((latest, event) => Math.max(latest, event.endFrame + event.fadeOutFrames), 0) };
}

interface Scheduled {
  readonly played: LoopSource | Pattern;
  readonly trackId: string;
  readonly setting: Project;
  readonly events: readonly (SoundEvent & { readonly request: FitRequest })[];
}
const scheduledClips = new WeakMap<Clip, Scheduled>();

/** Whether what a clip is made to belong to is the same in two states of a project. */
const sameSetting = (a: Project, b: Project): boolean =>
  a.tempoBpm === b.tempoBpm && sameKey(a.key, b.key) && a.sections === b.sections && a.chords === b.chords && a.meter === b.meter;

/** A clip's events; those of a clip that is still the same, in the same setting, are not worked out again. What is not there is silent. */
function scheduledOnce(clip: Clip, trackId: string, played: LoopSource | Pattern | null, setting: Project): Scheduled['events'] {
  if (!played) return [];
  const known = scheduledClips.get(clip);
  if (known?.played === played && known.trackId === trackId && sameSetting(known.setting, setting)) return known.events;
  const events =
    'notes' in played
      ? scheduleNotes(clip, trackId, played, setting)
      : planClip(clip, played, setting).flatMap((segment, k) =>
          scheduleSegment(k === 0 ? clip.id : `${clip.id}+${k}`, trackId, segment, setting.tempoBpm).map((event) => ({
            ...event,
            request: segment.fitted.request,
          })),
        );
  scheduledClips.set(clip, { played, trackId, setting, events });
  return events;
}

/** The events of a clip of notes: its bars, each ringing out over the next. */
function scheduleNotes(clip: Clip, trackId: string, pattern: Pattern, setting: Project): (SoundEvent & { readonly request: FitRequest })[] {
  if (clip.muted) return [];
  const beatFrames = framesPerBeat(setting.tempoBpm, projectRateHz),
    envelope = envelopeOf({ ...clip, whole: clip }, beatFrames);
  return planNotes(clip, pattern, setting).map(({ startBeat, request }) => {
    const startFrame = Math.round(startBeat * beatFrames);
    return {
      id: `${clip.id}@${startBeat}`,
      trackId,
      bufferKey: fitKey(request),
      startFrame,
      endFrame: startFrame + request.targetFrames,
      offsetFrame: 0,
      cyclic: false,
      fadeInFrames: 0,
      fadeOutFrames: clipFadeOutFrames,
      gainRatio: dbToRatio(clip.gainDb),
      ...(envelope ? { envelope } : {}),
      request,
    };
  });
}

/** How a clip comes up and goes down; null where it does neither. */
function envelopeOf(
  { whole, fadeInBeats, fadeOutBeats }: Pick<Segment, 'whole' | 'fadeInBeats' | 'fadeOutBeats'>,
  beatFrames: number,
): Envelope | null {
  if (fadeInBeats <= 0 && fadeOutBeats <= 0) return null;
  return {
    startFrame: Math.round(whole.startBeat * beatFrames),
    endFrame: Math.round((whole.startBeat + whole.lengthBeats) * beatFrames),
    fadeInFrames: Math.round(fadeInBeats * beatFrames),
    fadeOutFrames: Math.round(fadeOutBeats * beatFrames),
  };
}

/** The events of one segment. What lands would begin before bar 1 is heard from there on. */
export function scheduleSegment(id: string, trackId: string, segment: Segment, tempoBpm: number): SoundEvent[] {
  const { fitted, joins } = segment,
    beatFrames = framesPerBeat(tempoBpm, projectRateHz),
    joinBefore = joins.before ? joinFadeFrames : 0,
    endExact = (segment.startBeat + segment.lengthBeats) * beatFrames - (joins.behind ? joinFadeFrames : 0),
    leftExact = Math.max(0, segment.offsetBeats * beatFrames - joinBefore),
    landing = fitted.cycleFrames === Infinity ? segment.landing : null,
    before = landing ? landing.beat * beatFrames - landing.frame : segment.startBeat * beatFrames - joinBefore - leftExact,
    offsetExact = landing ? Math.max(leftExact, -before) : leftExact,
    events = scheduleRepetitions({
      id,
      trackId,
      fitted,
      startExact: before + offsetExact,
      endExact,
      offsetExact,
      gainRatio: dbToRatio(segment.gainDb),
    }),
    envelope = envelopeOf(segment, beatFrames);
  return events.map((event, k) => ({
    ...event,
    ...(joins.before && k === 0 ? { fadeInFrames: joinFadeFrames } : {}),
    ...(joins.behind && k === events.length - 1 ? { fadeOutFrames: joinFadeFrames } : {}),
    ...(envelope ? { envelope } : {}),
  }));
}

export interface Repetitions {
  readonly id: string;
  readonly trackId: string;
  readonly fitted: Fitted;
  readonly startExact: number;
  readonly endExact: number;
  readonly offsetExact: number;
  readonly gainRatio: number;
}

/** Repeats a fitted buffer from `startExact` to `endExact` (frames, not whole in general; Infinity goes on for ever, lazily cut at 4,096 repetitions). */
export function scheduleRepetitions({ id, trackId, fitted, startExact, endExact, offsetExact, gainRatio }: Repetitions): SoundEvent[] {
  const bufferKey = fitKey(fitted.request),
    bufferFrames = fitted.request.targetFrames;
  const startFrame = Math.round(startExact),
    endFrame = Number.isFinite(endExact) ? Math.round(endExact) : Infinity;
  const common = { trackId, bufferKey, gainRatio, fadeOutFrames: clipFadeOutFrames };
  if (fitted.cycleFrames === Infinity) {
    const offsetFrame = Math.round(offsetExact);
    const stop = Math.min(endFrame, startFrame + bufferFrames - offsetFrame);
    return stop > startFrame
      ? [{ ...common, id, startFrame, endFrame: stop, offsetFrame, cyclic: false, fadeInFrames: offsetFrame > 0 ? clipFadeInFrames : 0 }]
      : [];
  }
  const events: SoundEvent[] = [];
  const { cycleFrames } = fitted;
  const repetitionStart = (repetition: number) => Math.round(startExact - offsetExact + repetition * cycleFrames);
  let repetition = Math.floor((offsetExact + 0.5) / cycleFrames);
  for (let part = 0; part < 4096; part++) {
    const from = Math.max(startFrame, repetitionStart(repetition));
    const origin = repetitionStart(repetition);
    let next = repetition + 1;
    while (
      repetitionStart(next) - origin === (next - repetition) * bufferFrames &&
      repetitionStart(next) < endFrame &&
      next - repetition < 4096
    )
      next++;
    const until = Math.min(endFrame, repetitionStart(next));
    const last = until >= endFrame;
    if (until > from)
      events.push({
        ...common,
        id: `${id}/${part}`,
        startFrame: from,
        endFrame: until,
        offsetFrame: (from - origin) % bufferFrames,
        cyclic: true,
        fadeInFrames: part === 0 ? clipFadeInFrames : realignFadeFrames,
        fadeOutFrames: last ? clipFadeOutFrames : realignFadeFrames,
      });
    if (last) break;
    repetition = next;
  }
  return events;
}
