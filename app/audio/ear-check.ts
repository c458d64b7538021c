import type { CandidatePlayer } from './candidate-player';
import { ClickTrack } from './click-track';
import type { AudioGraph } from './graph';
import { ReferenceTone } from './reference-tone';

/** How far to the left a loop is heard while clicks are on the right. */
const loopPan = -0.8;

/** What one compares a loop with by ear: a drone, notes, a scale, clicks of a tempo. */
export class EarCheck {
  private readonly tone: ReferenceTone;
  private readonly clicks: ClickTrack;

  constructor(
    private readonly graph: AudioGraph,
    private readonly candidate: CandidatePlayer,
  ) {
    this.tone = new ReferenceTone(graph.context, graph.click);
    this.clicks = new ClickTrack(graph.context, graph.click);
  }

  drone(note: number | null, third: number | null = null): void {
    this.tone.drone(note, third);
  }

  strike(notes: readonly number[], seconds: number): void {
    this.tone.strike(notes, seconds);
  }

  line(notes: readonly number[]): void {
    this.tone.line(notes, 0.28);
  }

  /** Clicks on the right from the first frame of what is about to sound, which goes to the left. */
  startClicks(tempoBpm: number): void {
    const { originFrame } = this.candidate;
    if (originFrame === null) return;
    this.pan(loopPan);
    this.clicks.start(tempoBpm, originFrame);
  }

  stopClicks(): void {
    this.clicks.stop();
    this.pan(0);
  }

  private pan(value: number): void {
    const { context, side } = this.graph;
    side.pan.setTargetAtTime(value, context.currentTime, 0.005);
  }
}
