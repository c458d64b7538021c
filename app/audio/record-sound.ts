import { writeWav } from '~core/formats/wav/write';
import recordUrl from '../../workers/record.worklet.ts?worker&url';

export interface Recording {
  /** Ends it. @returns what was heard, as a WAV of 32 bits */
  readonly stop: () => Blob;
}

/** Longer is no question any more. */
const mostSeconds = 60;

/** Records from the microphone, one channel, as it comes. @throws when there is no microphone, or it may not be used */
export async function recordSound(): Promise<Recording> {
  const stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    }),
    context = new AudioContext();
  await context.audioWorklet.addModule(recordUrl);
  const node = new AudioWorkletNode(context, 'record', { numberOfOutputs: 0 }),
    blocks: Float32Array[] = [];
  let frames = 0;
  node.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
    if (frames > mostSeconds * context.sampleRate) return;
    blocks.push(data);
    frames += data.length;
  };
  context.createMediaStreamSource(stream).connect(node);
  return {
    stop: () => {
      for (const track of stream.getTracks()) track.stop();
      const samples = new Float32Array(frames);
      let at = 0;
      for (const block of blocks) {
        samples.set(block, at);
        at += block.length;
      }
      const wav = writeWav({ sampleRateHz: context.sampleRate, channels: [samples] }, 'float32');
      void context.close();
      return new Blob([wav as BlobPart], { type: 'audio/wav' });
    },
  };
}
