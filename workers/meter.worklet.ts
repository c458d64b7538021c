import type { MeterMessage } from './protocol';

const blocksPerMessage = 8;

/** Passes the sum through, and tells the page the audio thread's frame and the peaks. The product's clock. */
class Meter extends AudioWorkletProcessor {
  private blocks = 0;
  private left = 0;
  private right = 0;

  process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean {
    const input = inputs[0],
      output = outputs[0];
    for (let channel = 0; channel < output.length; channel++) {
      const source = input[channel] ?? input[0];
      if (source) output[channel].set(source);
    }
    this.left = Math.max(this.left, largest(input[0]));
    this.right = Math.max(this.right, largest(input[1] ?? input[0]));
    if (++this.blocks % blocksPerMessage === 0) {
      this.port.postMessage({ frame: currentFrame, peaks: [this.left, this.right] } satisfies MeterMessage);
      this.left = 0;
      this.right = 0;
    }
    return true;
  }
}

function largest(plane: Float32Array | undefined): number {
  let peak = 0;
  if (plane)
    for (let i = 0; i < plane.length; i++) {
      const size = Math.abs(plane[i]);
      if (size > peak) peak = size;
    }
  return peak;
}

registerProcessor('garnetfinch-meter', Meter);
