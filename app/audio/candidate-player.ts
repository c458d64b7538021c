import type { Fitted } from '~core/arrangement/fit-request';
import { scheduleRepetitions, type SoundEvent } from '~core/arrangement/schedule';
import { FadeGate } from './fade-gate';
import type { FitPool } from './fit-pool';
import type { AudioGraph } from './graph';
import { crossFrames, cutFadeFrames } from './pace';
import { silenceVoice, startVoice, type Voice } from './voices';

/** Sooner than this the audio thread may have begun with it already. */
const tooLateFrames = 256;

interface Sounding {
  readonly fitted: Fitted;
  readonly events: readonly SoundEvent[];
  next: number;
  /** Frame at which the loop's own start lies, the line, and the frame from which it is heard: before the line when it is led in. */
  readonly cycleFrame: number;
  readonly originFrame: number;
  readonly heardFrame: number;
  /** Its own level: what goes out keeps its own while the next one comes in. */
  readonly level: GainNode;
  readonly gate: FadeGate;
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

/** Plays one candidate at a time; the next takes over on its line, and until then the one before goes on. */
export class CandidatePlayer {
  /** The one asked for last. */
  private current: Sounding | null = null;
  /** The one that sounds until the current one's line. */
  private before: Sounding | null = null;
  /** Those that have left and fade. */
  private leaving: Sounding[] = [];

  constructor(
    private readonly graph: AudioGraph,
    private readonly pool: FitPool,
  ) {}

  get originFrame(): number | null {
    return this.current?.originFrame ?? null;
  }

  /**
   * Lets a fitted loop begin at a line. What sounded before goes over to it in the moment before the line; one that was asked for in between
   * and has not been heard yet never is.
   */
  start({ id, fitted, startExact, lengthFrames, offsetFrames, levelRatio }: CandidateStart): void {
    const events = scheduleRepetitions({
        id,
        trackId: 'candidate',
        fitted,
        startExact,
        endExact: startExact + lengthFrames,
        offsetExact: offsetFrames,
        gainRatio: 1,
      }),
      [first, ...later] = events,
      originFrame = Math.round(startExact);
    const nowFrame = this.stepBack();
    // With something to take over from, and time for it, the crossing lies before the line: the loop's own end leads in.
    const crosses =
        this.before !== null && soundsAt(this.before, originFrame) && first?.cyclic && originFrame - crossFrames > nowFrame + tooLateFrames,
      heardFrame = crosses ? originFrame - crossFrames : originFrame;
    this.before?.gate.close(heardFrame, crosses ? crossFrames : cutFadeFrames);
    const level = new GainNode(this.graph.context, { gain: levelRatio }),
      gate = new FadeGate(this.graph.context);
    level.connect(gate.node).connect(this.graph.candidate);
    // What begins in the middle of its cycle begins softly; a cycle's own start keeps its attack.
    if (crosses) gate.open(heardFrame, crossFrames);
    else if (offsetFrames > 0 && first) gate.open(heardFrame, cutFadeFrames);
    this.current = {
      fitted,
      events: crosses ? [led(first, fitted.request.targetFrames), ...later] : events,
      next: 0,
      cycleFrame: originFrame - Math.round(offsetFrames),
      originFrame,
      heardFrame,
      level,
      gate,
      voices: [],
    };
  }

  /**
   * The current one makes room: it becomes the one before, or, not heard yet, is taken back. By the audio thread's clock as it is now: the page
   * may have stood still since a line was chosen. @returns the frame it is
   */
  private stepBack(): number {
    const { current } = this,
      nowFrame = Math.round(this.graph.context.currentTime * this.graph.context.sampleRate);
    this.current = null;
    if (current && current.heardFrame > nowFrame + tooLateFrames) release(current);
    else if (current) {
      if (this.before) this.leaving.push(this.before);
      this.before = current;
    }
    return nowFrame;
  }

  /** Sets the level of what sounds, in a few milliseconds. */
  setLevel(levelRatio: number): void {
    this.current?.level.gain.setTargetAtTime(levelRatio, this.graph.context.currentTime, 0.01);
  }

  /** Ends what sounds at a frame; what had not begun never does. */
  end(frame: number): void {
    this.stepBack();
    if (!this.before) return;
    this.before.gate.close(frame, cutFadeFrames);
    this.leaving.push(this.before);
    this.before = null;
  }

  scheduleAhead(now: number, horizon: number): void {
    for (const each of this.leaving) this.feed(each, now, Math.min(horizon, each.gate.closesFrame + cutFadeFrames));
    if (this.before) this.feed(this.before, now, Math.min(horizon, this.before.gate.closesFrame + cutFadeFrames));
    if (this.current) this.feed(this.current, now, horizon);
    // Long past its fade, what has left is taken out of the graph.
    const gone = (each: Sounding) => each.gate.closesFrame + 8 * cutFadeFrames < now;
    if (this.before && gone(this.before)) {
      this.leaving.push(this.before);
      this.before = null;
    }
    for (const each of this.leaving.filter(gone)) release(each);
    this.leaving = this.leaving.filter((each) => !gone(each));
  }

  private feed(sounding: Sounding, now: number, horizon: number): void {
    const buffer = this.pool.peek(sounding.fitted.request);
    if (!buffer) return;
    while (sounding.next < sounding.events.length && sounding.events[sounding.next].startFrame < horizon) {
      const event = sounding.events[sounding.next++],
        late = Math.max(0, now + tooLateFrames - event.startFrame);
      // A late remainder shorter than its own fades would only be heard as a click.
      if (late > 0 && event.startFrame + late + cutFadeFrames >= event.endFrame) continue;
      sounding.voices.push(
        startVoice(this.graph.context, {
          ...event,
          buffer,
          into: sounding.level,
          startFrame: event.startFrame + late,
          offsetFrame: event.offsetFrame + late,
          fadeInFrames: late > 0 ? cutFadeFrames : event.fadeInFrames,
        }),
      );
    }
    sounding.voices = sounding.voices.filter((voice) => voice.endFrame > now - cutFadeFrames);
  }

  /** 0–1 through the loop's cycle; null while it does not sound. */
  phase(now: number): number | null {
    const { current } = this;
    if (!current || now < current.originFrame) return null;
    const { cycleFrames, request } = current.fitted,
      since = now - current.cycleFrame;
    if (Number.isFinite(cycleFrames)) return (((since % cycleFrames) + cycleFrames) % cycleFrames) / cycleFrames;
    return since < request.targetFrames ? since / request.targetFrames : null;
  }
}

function soundsAt({ heardFrame, events }: Sounding, frame: number): boolean {
  const last = events.at(-1);
  return heardFrame < frame && last !== undefined && last.endFrame > frame;
}

function release({ voices, gate }: Sounding): void {
  for (const voice of voices) silenceVoice(voice);
  gate.node.disconnect();
}

/** An event that begins a crossing earlier, with the end of its cycle. */
function led(event: SoundEvent, bufferFrames: number): SoundEvent {
  return {
    ...event,
    startFrame: event.startFrame - crossFrames,
    offsetFrame: (((event.offsetFrame - crossFrames) % bufferFrames) + bufferFrames) % bufferFrames,
    fadeInFrames: 0,
  };
}
