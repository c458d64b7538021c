import { TruePeak } from '~core/dsp/true-peak';
import type { MeterMessage } from './protocol';

const blocksPerMessage = 8;

/** Passes the sum through, and tells the page the audio thread's frame and the peaks. The product's clock. */
class Meter extends AudioWorkletProcessor {
  private blocks = 0;
  private peaks: [number, number] = [0, 0];
  private truePeaks: [number, number] = [0, 0];
  private readonly between = [new TruePeak(), new TruePeak()];

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const input = inputs[0],
      output = outputs[0];
    for (let channel = 0; channel < output.length; channel++) {
      const source = input[channel] ?? input[0];
      if (source) output[channel].set(source);
    }
    for (const side of [0, 1]) {
      const plane = input[side] ?? input[0];
      if (!plane) continue;
      this.peaks[side] = Math.max(this.peaks[side], largest(plane));
      this.truePeaks[side] = Math.max(this.truePeaks[side], this.between[side].next(plane));
    }
    if (++this.blocks % blocksPerMessage === 0) {
      this.port.postMessage({ frame: currentFrame, peaks: this.peaks, truePeaks: this.truePeaks } satisfies MeterMessage);
      this.peaks = [0, 0];
      this.truePeaks = [0, 0];
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
