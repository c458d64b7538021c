import { Ceiling } from '~core/dsp/ceiling';
import { TruePeak } from '~core/dsp/true-peak';
import type { MeterMessage } from './protocol';

const blocksPerMessage = 8,
  /** What comes in while nothing sounds; a block of the audio thread (W3C Web Audio 1.1). */
  silence = new Float32Array(128);

/**
 * Measures the sum, holds it under full scale for whoever listens, and tells the page the audio thread's frame, the peaks as they came in
 * and by how much they were held down. The product's clock.
 */
class Meter extends AudioWorkletProcessor {
  private blocks = 0;
  private peaks: [number, number] = [0, 0];
  private truePeaks: [number, number] = [0, 0];
  private heldGainRatio = 1;
  private readonly ceiling = new Ceiling(2, 1);
  private readonly between = [new TruePeak(), new TruePeak()];

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const input = inputs[0],
      output = outputs[0];
    const left = input[0] ?? silence;
    this.heldGainRatio = Math.min(this.heldGainRatio, this.ceiling.next([left, input[1] ?? left], output));
    for (const side of [0, 1]) {
      const plane = input[side] ?? input[0];
      if (!plane) continue;
      this.peaks[side] = Math.max(this.peaks[side], largest(plane));
      this.truePeaks[side] = Math.max(this.truePeaks[side], this.between[side].next(plane));
    }
    if (++this.blocks % blocksPerMessage === 0) {
      this.port.postMessage({
        frame: currentFrame,
        peaks: this.peaks,
        truePeaks: this.truePeaks,
        heldGainRatio: this.heldGainRatio,
      } satisfies MeterMessage);
      this.peaks = [0, 0];
      this.truePeaks = [0, 0];
      this.heldGainRatio = 1;
    }
    return true;
  }
}

function largest(plane: Float32Array): number {
  let peak = 0;
  for (let i = 0; i < plane.length; i++) {
    const size = Math.abs(plane[i]);
    if (size > peak) peak = size;
  }
  return peak;
}

registerProcessor('garnetfinch-meter', Meter);
