/** Passes what the microphone hears to the page, block by block, each with the frame of the audio thread at which it begins; any message ends it. */
class RecordProcessor extends AudioWorkletProcessor {
  private ended = false;

  constructor() {
    super();
    this.port.onmessage = () => (this.ended = true);
  }

  process(inputs: Float32Array[][]): boolean {
    const [channels] = inputs;
    if (channels?.[0] && !this.ended) this.port.postMessage({ frame: currentFrame, samples: channels[0].slice() });
    return !this.ended;
  }
}
registerProcessor('record', RecordProcessor);
