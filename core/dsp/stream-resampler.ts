import { narrowing, phaseRows, phases, tapsPerSide } from './resample';

/** One channel of a sound that comes piece by piece, at another rate; silence before its start and after its end. */
export class StreamResampler {
  private readonly step: number;
  private readonly narrow: number;
  private readonly reach: number;
  private readonly rows: Float64Array;
  /** What is still needed; its first frame is number `heldFrom` of the source. */
  private held: Float32Array;
  private heldFrom: number;
  private received = 0;
  private made = 0;

  /** @throws {RangeError} when a rate is not above 0 */
  constructor(fromHz: number, toHz: number) {
    if (!(fromHz > 0) || !(toHz > 0)) throw new RangeError(`no resampling from ${fromHz} to ${toHz}`);
    this.step = fromHz / toHz;
    this.narrow = narrowing(this.step);
    this.reach = Math.ceil(tapsPerSide / this.narrow);
    this.rows = phaseRows(this.narrow, this.reach);
    this.held = new Float32Array(this.reach);
    this.heldFrom = -this.reach;
  }

  push(piece: Float32Array): Float32Array {
    const joined = new Float32Array(this.held.length + piece.length);
    joined.set(this.held);
    joined.set(piece, this.held.length);
    this.held = joined;
    this.received += piece.length;
    // A frame is made when all the source that its kernel reaches is there.
    return this.make(Math.max(0, Math.floor((this.received - this.reach - 1) / this.step) - this.made));
  }

  /** What the last pieces have left to say. All in all, `received / step` frames to the nearest. */
  finish(): Float32Array {
    const left = Math.max(0, Math.round(this.received / this.step) - this.made),
      total = this.received;
    const rest = this.push(new Float32Array(2 * this.reach + 2 + Math.ceil(this.step)));
    this.received = total;
    if (rest.length >= left) return rest.subarray(0, left);
    const out = new Float32Array(left);
    out.set(rest);
    out.set(this.make(left - rest.length), rest.length);
    return out;
  }

  private make(count: number): Float32Array {
    const { step, narrow, reach, rows, held } = this,
      taps = 2 * reach,
      out = new Float32Array(count);
    for (let i = 0; i < count; i++) {
      const position = (this.made + i) * step,
        centre = Math.floor(position),
        phase = (position - centre) * phases,
        row = Math.floor(phase),
        blend = phase - row,
        first = centre - reach + 1 - this.heldFrom;
      let here = 0,
        there = 0;
      for (let tap = 0, a = row * taps, b = a + taps; tap < taps; tap++, a++, b++) {
        const value = held[first + tap];
        here += value * rows[a];
        there += value * rows[b];
      }
      out[i] = (here + (there - here) * blend) * narrow;
    }
    this.made += count;
    const keepFrom = Math.max(this.heldFrom, Math.floor(this.made * step) - reach);
    this.held = held.slice(Math.min(held.length, keepFrom - this.heldFrom));
    this.heldFrom = keepFrom;
    return out;
  }
}
