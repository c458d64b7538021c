import { isANumber } from './is-a-number';
import { assertPositive } from '../units/assert';

/** 2 ms at 44.1 kHz: short enough to play through, long enough not to be heard as a crackle. */
export const ceilingLookaheadFrames = 88;
/** After a peak the gain comes back by this share of what is missing, each frame: in about a tenth of a second. */
const returnShare = 1 / 2000;

/**
 * A lookahead ceiling: what comes out is `lookaheadFrames − 1` frames late, never above the ceiling, and frame for frame what went in
 * where that stays below it. The gain that each frame needs is held over the frames that follow (a running minimum), comes back
 * slowly, and is averaged over the lookahead, so that it is down before the peak arrives; an average of values none of which is above
 * what the frame needs is not above it either. All channels get the same gain, which keeps the image. Common practice.
 */
export class Ceiling {
  private readonly delayed: readonly Float32Array[];
  /** Gains needed by the last frames, of which `queue` holds the places that may still be the least, ascending in value. */
  private readonly needed: Float64Array;
  private readonly queue: Int32Array;
  private readonly averaged: Float64Array;
  private queueStart = 0;
  private queueLength = 0;
  private frame = 0;
  private held = 1;
  private sum: number;

  constructor(
    readonly channelCount: number,
    readonly ceilingRatio: number,
    readonly lookaheadFrames: number = ceilingLookaheadFrames,
  ) {
    assertPositive('ceilingRatio', ceilingRatio);
    assertPositive('lookaheadFrames', lookaheadFrames);
    this.delayed = Array.from({ length: channelCount }, () => new Float32Array(lookaheadFrames));
    this.needed = new Float64Array(lookaheadFrames).fill(1);
    this.queue = new Int32Array(lookaheadFrames);
    this.averaged = new Float64Array(lookaheadFrames).fill(1);
    this.sum = lookaheadFrames;
  }

  /**
   * Passes frames through; `output` may be `input`. What is no number comes out as silence.
   * @returns the lowest gain that was applied, as a ratio: 1 when nothing was held down
   */
  next(input: readonly Float32Array[], output: readonly Float32Array[]): number {
    const { lookaheadFrames: length, delayed, averaged, ceilingRatio } = this;
    let lowest = 1;
    for (let i = 0; i < input[0].length; i++) {
      const slot = this.frame % length,
        after = (this.frame + 1) % length;
      let peak = 0;
      for (let channel = 0; channel < this.channelCount; channel++) {
        const value = input[channel][i],
          sound = isANumber(value) ? value : 0;
        delayed[channel][slot] = sound;
        if (Math.abs(sound) > peak) peak = Math.abs(sound);
      }
      const least = this.leastOf(slot, peak > ceilingRatio ? ceilingRatio / peak : 1);
      this.held = Math.min(least, this.held + (1 - this.held) * returnShare);
      if (this.held > 0.99999) this.held = least;
      this.sum += this.held - averaged[slot];
      averaged[slot] = this.held;
      // A sum of ones is one exactly: small errors of what was added and taken away do not stay.
      if (slot === length - 1) this.sum = averaged.reduce((total, value) => total + value, 0);
      const gain = this.sum > length - 1e-9 ? 1 : this.sum / length;
      if (gain < lowest) lowest = gain;
      for (let channel = 0; channel < this.channelCount; channel++) {
        const value = delayed[channel][after] * gain;
        output[channel][i] = value > ceilingRatio ? ceilingRatio : value < -ceilingRatio ? -ceilingRatio : value;
      }
      this.frame++;
    }
    return lowest;
  }

  /** The least gain needed by this frame and the `lookaheadFrames − 1` before it. */
  private leastOf(slot: number, gain: number): number {
    const { needed, queue, lookaheadFrames: length } = this;
    if (this.queueLength > 0 && queue[this.queueStart] === slot) this.dropFirst();
    needed[slot] = gain;
    while (this.queueLength > 0 && needed[queue[(this.queueStart + this.queueLength - 1) % length]] >= gain) this.queueLength--;
    queue[(this.queueStart + this.queueLength++) % length] = slot;
    return needed[queue[this.queueStart]];
  }

  private dropFirst(): void {
    this.queueStart = (this.queueStart + 1) % this.lookaheadFrames;
    this.queueLength--;
  }
}

/**
 * A cycle held under a ceiling, round and round; in place. A cycle below it stays as it is, bit for bit.
 * @param planes `[channel][frame]`
 */
export function holdCycle(planes: readonly Float32Array[], ceilingRatio: number): void {
  if (planes.every((plane) => plane.every((value) => Math.abs(value) <= ceilingRatio))) return;
  const frames = planes[0].length,
    ceiling = new Ceiling(planes.length, ceilingRatio),
    late = ceiling.lookaheadFrames - 1,
    out = planes.map(() => new Float32Array(frames));
  // Once round to know what comes before the start.
  ceiling.next(planes, out);
  ceiling.next(planes, out);
  planes.forEach((plane, channel) => {
    for (let i = 0; i < frames; i++) plane[i] = out[channel][(i + late) % frames];
  });
}
