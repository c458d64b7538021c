import type { Fitted } from '~core/arrangement/fit-request';
import { scheduleLaps, type SoundEvent } from '~core/arrangement/schedule';
import { projectRateHz } from '~core/units/time';
import type { FitPool } from './fit-pool';
import type { AudioGraph } from './graph';
import { crossFrames, cutFadeFrames } from './pace';
import { endVoice, startVoice, type Voice } from './voices';

interface Sounding {
  readonly fitted: Fitted;
  readonly events: readonly SoundEvent[];
  next: number;
  /** Frame at which the loop's own start lies, and the one from which it is heard. */
  readonly lapFrame: number;
  readonly originFrame: number;
  /** Its own level: what goes out keeps its own while the next one comes in. */
  readonly level: GainNode;
  voices: Voice[];
}

export interface CandidateStart {
  readonly id: string;
  readonly fitted: Fitted;
  /** Frame of the line, not whole in general. */
  readonly startExact: number;
  readonly lengthFrames: number;
  /** How far into the loop it begins. */
  readonly offsetFrames: number;
  readonly levelRatio: number;
}

/** Plays one candidate at a time; the next takes over on its line. */
export class CandidatePlayer {
  private current: Sounding | null = null;
  /** Frame from which the one before crosses over to what comes in on the next line. */
  private leavingFrame: number | null = null;

  constructor(
    private readonly graph: AudioGraph,
    private readonly pool: FitPool,
  ) {}

  get originFrame(): number | null {
    return this.current?.originFrame ?? null;
  }

  /**
   * Lets a fitted loop begin at a line. What sounded before goes over to it in the moment before the line.
   */
  start({ id, fitted, startExact, lengthFrames, offsetFrames, levelRatio }: CandidateStart, nowFrame: number): void {
    const events = scheduleLaps({
        id,
        trackId: 'candidate',
        fitted,
        startExact,
        endExact: startExact + lengthFrames,
        offsetExact: offsetFrames,
        gainRatio: 1,
      }),
      originFrame = Math.round(startExact),
      // With something to take over from, and time for it, the crossing lies before the line: the loop's own end leads in.
      // One that was to come in on the same line, and is replaced before it did, has made room already.
      takesOver = this.sounds(originFrame) || this.leavingFrame === originFrame - crossFrames,
      crosses = takesOver && events[0]?.cyclic === true && originFrame - crossFrames > nowFrame,
      [first, ...later] = events;
    this.end(crosses ? originFrame - crossFrames : originFrame, crosses);
    this.leavingFrame = crosses ? originFrame - crossFrames : null;
    const level = new GainNode(this.graph.context, { gain: levelRatio });
    level.connect(this.graph.candidate);
    this.current = {
      fitted,
      // What begins in the middle of its lap begins softly; a lap's own start keeps its attack.
      events: crosses
        ? [led(first, fitted.request.targetFrames), ...later]
        : offsetFrames > 0 && first
          ? [{ ...first, fadeInFrames: cutFadeFrames }, ...later]
          : events,
      next: 0,
      lapFrame: originFrame - Math.round(offsetFrames),
      originFrame,
      level,
      voices: [],
    };
  }

  /** Sets the level of what sounds, in a few milliseconds. */
  setLevel(levelRatio: number): void {
    this.current?.level.gain.setTargetAtTime(levelRatio, this.graph.context.currentTime, 0.01);
  }

  private sounds(frame: number): boolean {
    return this.current?.voices.some((voice) => voice.startFrame < frame && voice.endFrame > frame) ?? false;
  }

  /** Ends what sounds at a frame; what had not begun never does. */
  end(frame: number, crossing = false): void {
    const { current } = this;
    if (!current) return;
    this.current = null;
    for (const voice of current.voices) {
      if (voice.startFrame >= frame) {
        try {
          voice.source.stop(0);
        } catch {
          /* gone */
        }
        voice.source.disconnect();
      } else if (voice.endFrame > frame) {
        voice.gain.gain.cancelScheduledValues(frame / projectRateHz);
        endVoice(voice, frame, crossing ? crossFrames : cutFadeFrames, projectRateHz, 'equal-power');
      }
    }
    // What was planned further ahead is gone; its end must not take the level away from what still fades.
    current.voices = current.voices.filter((voice) => voice.startFrame < frame);
    if (current.voices.length === 0) current.level.disconnect();
  }

  pump(now: number, horizon: number): void {
    const { current } = this,
      buffer = current && this.pool.peek(current.fitted.request);
    if (!current || !buffer) return;
    while (current.next < current.events.length && current.events[current.next].startFrame < horizon) {
      const event = current.events[current.next++];
      if (event.endFrame <= now) continue;
      const late = Math.max(0, now + 256 - event.startFrame),
        crossing = event.fadeInFrames === crossFrames;
      const voice = startVoice(this.graph.context, {
        ...event,
        buffer,
        into: current.level,
        startFrame: event.startFrame + late,
        offsetFrame: event.offsetFrame + late,
        fadeInFrames: late > 0 ? cutFadeFrames : event.fadeInFrames,
        shape: crossing || late > 0 ? 'equal-power' : 'straight',
      });
      current.voices.push(voice);
      this.leaveWhenOver(voice, current);
    }
  }

  /** Takes a candidate's level out of the graph with the last of its voices. */
  private leaveWhenOver(voice: Voice, sounding: Sounding): void {
    voice.source.addEventListener('ended', () => {
      if (!sounding.voices.includes(voice)) return;
      sounding.voices = sounding.voices.filter((each) => each !== voice);
      if (this.current !== sounding && sounding.voices.length === 0) sounding.level.disconnect();
    });
  }

  /** 0–1 through the loop's lap; null while it does not sound. */
  phase(now: number): number | null {
    const { current } = this;
    if (!current || now < current.originFrame) return null;
    const { lapFrames, request } = current.fitted,
      since = now - current.lapFrame;
    if (Number.isFinite(lapFrames)) return (((since % lapFrames) + lapFrames) % lapFrames) / lapFrames;
    return since < request.targetFrames ? since / request.targetFrames : null;
  }
}

/** An event that begins a crossing earlier, with the end of its lap. */
function led(event: SoundEvent, bufferFrames: number): SoundEvent {
  return {
    ...event,
    startFrame: event.startFrame - crossFrames,
    offsetFrame: (((event.offsetFrame - crossFrames) % bufferFrames) + bufferFrames) % bufferFrames,
    fadeInFrames: crossFrames,
  };
}
