import { projectRateHz } from '~core/units/time';
import { soonFrames } from './pace';

const curvePoints = 33;
/** A quarter of a sine, up or down. */
const quarter = (up: boolean): Float32Array =>
  Float32Array.from({ length: curvePoints }, (_, k) => Math.sin(((up ? k : curvePoints - 1 - k) / (curvePoints - 1)) * (Math.PI / 2)));

/**
 * Opens once and closes once, by equal power, in front of everything a candidate plays: when it leaves can be planned, and planned anew,
 * without a look at the fades of its cycles.
 */
export class FadeGate {
  readonly node: GainNode;
  private openFrame = -Infinity;
  private closingFrame = Infinity;

  constructor(private readonly context: BaseAudioContext) {
    this.node = new GainNode(context);
  }

  /** Frame at which it begins to close; Infinity while it stays open. */
  get closesFrame(): number {
    return this.closingFrame;
  }

  /** Is shut until `frame` and opens from there. */
  open(frame: number, fadeFrames: number): void {
    this.node.gain.setValueAtTime(0, 0);
    this.node.gain.setValueCurveAtTime(quarter(true), frame / projectRateHz, fadeFrames / projectRateHz);
    // A frame more: nothing may be planned within a curve, and seconds are not whole frames to the last digit.
    this.openFrame = frame + fadeFrames + 1;
  }

  /**
   * Closes from `frame` on, but not before it is open; an earlier plan to close, if it has not begun, is dropped. By the audio thread's clock: the
   * page may have stood still since the frame was chosen, and a curve that is taken back while it runs jumps.
   */
  close(frame: number, fadeFrames: number): void {
    const soonest = Math.round(this.context.currentTime * projectRateHz) + soonFrames;
    if (this.closingFrame <= soonest) return;
    const from = Math.max(frame, this.openFrame, soonest),
      { gain } = this.node;
    if (Number.isFinite(this.closingFrame)) gain.cancelScheduledValues(this.closingFrame / projectRateHz);
    gain.setValueCurveAtTime(quarter(false), from / projectRateHz, fadeFrames / projectRateHz);
    this.closingFrame = from;
  }
}
