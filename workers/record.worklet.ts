/** Passes what the microphone hears to the page, block by block. */
class RecordProcessor extends AudioWorkletProcessor {
  process(inputs: Float32Array[][]): boolean {
    const [channels] = inputs;
    if (channels?.[0]) this.port.postMessage(channels[0].slice());
    return true;
  }
}
registerProcessor('record', RecordProcessor);
