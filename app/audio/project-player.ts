import type { Envelope } from '~core/arrangement/envelope';
import type { Schedule, SoundEvent } from '~core/arrangement/schedule';
import { projectRateHz } from '~core/units/time';
import { fitPriority, type FitPool } from './fit-pool';
import type { AudioGraph } from './graph';
import { cutFadeFrames, leadFrames } from './pace';
import { frameOfRunningBeat, passesBetween, runningBeatAt, type Transport } from './transport';
import { cutVoice, startVoice, type Voice } from './voices';

/** Hands the project's events to the audio thread, pass by pass, a little ahead of time. */
export class ProjectPlayer {
  private scheduled = new Map<string, { voice: Voice; event: SoundEvent }>();
  /** Buffers asked for again; once each until the grid changes, since one that cannot be made never comes. */
  private readonly missed = new Set<string>();

  constructor(
    private readonly graph: AudioGraph,
    private readonly pool: FitPool,
  ) {}

  /** Everything that sounds or waits is faded out from `frame` on. */
  cut(frame: number): void {
    for (const { voice } of this.scheduled.values()) cutVoice(voice, frame, cutFadeFrames, projectRateHz);
    this.scheduled.clear();
    this.missed.clear();
  }

  /** Voices whose event is not in the new schedule are faded out; the others go on untouched. */
  keepOnly(schedule: Schedule, frame: number): void {
    const wanted = new Set(schedule.events.map(eventName));
    for (const [id, { voice, event }] of this.scheduled)
      if (!wanted.has(eventName(event))) {
        cutVoice(voice, frame, cutFadeFrames, projectRateHz);
        this.scheduled.delete(id);
      }
  }

  scheduleAhead(schedule: Schedule, transport: Transport, now: number, horizon: number): void {
    for (const [id, { voice }] of this.scheduled) if (voice.endFrame < now - projectRateHz) this.scheduled.delete(id);
    for (const pass of passesBetween(transport, runningBeatAt(transport, now), runningBeatAt(transport, horizon))) {
      const zero = Math.round(frameOfRunningBeat(transport, pass.shiftBeats)),
        passStart = Math.round(frameOfRunningBeat(transport, pass.fromBeat)),
        passEnd = Number.isFinite(pass.toBeat) ? Math.round(frameOfRunningBeat(transport, pass.toBeat)) : Infinity;
      for (const event of schedule.events) {
        const startFrame = zero + event.startFrame,
          endFrame = Math.min(zero + event.endFrame, passEnd);
        if (startFrame >= horizon) break;
        const id = `${pass.index}/${event.id}`;
        if (endFrame <= Math.max(now, passStart) || this.scheduled.has(id)) continue;
        const request = schedule.requests.get(event.bufferKey),
          buffer = request && this.pool.peek(request),
          into = this.graph.trackInput(event.trackId);
        // What many candidates have pushed out of the cache is made again.
        if (request && !buffer && !this.missed.has(event.bufferKey)) {
          this.missed.add(event.bufferKey);
          void this.pool.request(request, fitPriority.project).then(
            () => this.missed.delete(event.bufferKey),
            () => {},
          );
        }
        if (!buffer || !into) continue;
        // What should have begun already (a seek, a buffer that came late) begins now, at its right place.
        const due = Math.max(passStart, startFrame),
          from = due < now ? now + leadFrames : due,
          late = from - startFrame;
        // A remainder shorter than its own fades would only be heard as a click.
        if (from + cutFadeFrames >= endFrame && late > 0) continue;
        const voice = startVoice(this.graph.context, {
          id,
          buffer,
          into,
          startFrame: from,
          endFrame,
          offsetFrame: event.offsetFrame + late,
          cyclic: event.cyclic,
          fadeInFrames: late > 0 ? cutFadeFrames : event.fadeInFrames,
          fadeOutFrames: event.fadeOutFrames,
          gainRatio: event.gainRatio,
          ...(event.envelope ? { envelope: movedBy(event.envelope, zero) } : {}),
        });
        this.scheduled.set(id, { voice, event });
      }
    }
  }
}

const movedBy = (envelope: Envelope, frames: number): Envelope => ({
  ...envelope,
  startFrame: envelope.startFrame + frames,
  endFrame: envelope.endFrame + frames,
});

/** What makes a scheduled voice the same event as one of the new schedule. */
const eventName = (event: SoundEvent): string =>
  [
    event.id,
    event.trackId,
    event.bufferKey,
    event.startFrame,
    event.endFrame,
    event.offsetFrame,
    event.gainRatio,
    ...Object.values(event.envelope ?? {}),
  ].join('|');
