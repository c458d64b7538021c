import { makeResampled, resamplingKernel, type ResamplingKernel } from './resample';

/** A sound of one or two channels that comes piece by piece, at another rate; silence before its start and after its end. */
export class StreamResampler {
  private readonly kernel: ResamplingKernel;
  /** What is still needed, by channel; its first frame is number `heldFrom` of the source. */
  private held: Float32Array[];
  private heldFrom: number;
  private received = 0;
  private made = 0;

  /** @throws {RangeError} when a rate is not above 0 */
  constructor(fromHz: number, toHz: number, channelCount: number) {
    if (!(fromHz > 0) || !(toHz > 0)) throw new RangeError(`no resampling from ${fromHz} to ${toHz}`);
    this.kernel = resamplingKernel(fromHz / toHz);
    this.held = Array.from({ length: channelCount }, () => new Float32Array(this.kernel.reach));
    this.heldFrom = -this.kernel.reach;
  }

  /** @param planes as many as there are channels, of one length */
  push(planes: readonly Float32Array[]): Float32Array[] {
    this.held = this.held.map((held, channel) => {
      const joined = new Float32Array(held.length + planes[channel].length);
      joined.set(held);
      joined.set(planes[channel], held.length);
      return joined;
    });
    this.received += planes[0].length;
    // A frame is made when all the source that its kernel reaches is there.
    return this.make(Math.max(0, Math.floor((this.received - this.kernel.reach - 1) / this.kernel.step) - this.made));
  }

  /** What the last pieces have left to say. All in all, `received / step` frames to the nearest. */
  finish(): Float32Array[] {
    const { step, reach } = this.kernel,
      total = this.received,
      left = Math.max(0, Math.round(total / step) - this.made),
      // Silence that is long enough for all that is left.
      silence = new Float32Array(2 * reach + 2 + 2 * Math.ceil(step)),
      rest = this.push(this.held.map(() => silence));
    this.received = total;
    return rest.map((plane) => plane.subarray(0, left));
  }

  private make(count: number): Float32Array[] {
    const { held, heldFrom, made, kernel } = this,
      out = held.map(() => new Float32Array(count)),
      other = held.length - 1;
    makeResampled(out[0], out[other], made, kernel, (sideBySide, from, frames) => {
      const first = from - heldFrom;
      for (let k = 0; k < frames; k++) {
        sideBySide[2 * k] = held[0][first + k];
        sideBySide[2 * k + 1] = held[other][first + k];
      }
    });
    this.made += count;
    const keepFrom = Math.max(heldFrom, Math.floor(this.made * kernel.step) - kernel.reach);
    this.held = held.map((plane) => plane.slice(Math.min(plane.length, keepFrom - heldFrom)));
    this.heldFrom = keepFrom;
    return out;
  }
}
