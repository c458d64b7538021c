/** Passes what the microphone hears to the page, block by block, each with the frame of the audio thread at which it begins. */
class RecordProcessor extends AudioWorkletProcessor {
  process(inputs: Float32Array[][]): boolean {
    const [channels] = inputs;
    if (channels?.[0]) this.port.postMessage({ frame: currentFrame, samples: channels[0].slice() });
    return true;
  }
}
registerProcessor('record', RecordProcessor);
