import { writeWav } from '~core/formats/wav/write';
import recordUrl from '../../workers/record.worklet.ts?worker&url';
import { latencyFrames, takeOf, type Block } from './take';

export interface Recording {
  /** What comes later than it was played, in milliseconds, as the browser states it; it is taken off where a take begins at a frame. */
  readonly latencyMs: number;
  /**
   * Ends it.
   * @param fromFrame of the context that it runs in: the take begins with what was played then; left out, with the first that was heard
   * @returns what was heard, as a WAV of 32 bits
   */
  readonly stop: (fromFrame?: number) => Blob;
}

/** A take is no hour; what is looked for is shorter still. */
export const mostSeconds = 300;

/**
 * Records from the microphone or line input, one channel, as it comes.
 * @param shared the context in which the project plays, so that both count the same frames; null: one of its own
 * @param onFull called once when the take is as long as one can be; what comes behind is left away
 * @throws when there is no microphone, or it may not be used
 */
export async function recordSound(shared: AudioContext | null, onFull: () => void): Promise<Recording> {
  const stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    }),
    context = shared ?? new AudioContext(),
    letGo = () => {
      for (const each of stream.getTracks()) each.stop();
      if (!shared) void context.close();
    };
  try {
    await context.audioWorklet.addModule(recordUrl);
  } catch (error) {
    letGo();
    throw error;
  }
  const node = new AudioWorkletNode(context, 'record', { numberOfOutputs: 0 }),
    source = context.createMediaStreamSource(stream),
    [track] = stream.getAudioTracks(),
    late = latencyFrames(context, (track?.getSettings() as { latency?: number }).latency ?? 0),
    blocks: Block[] = [];
  let isFull = false;
  node.port.onmessage = ({ data }: MessageEvent<Block>) => {
    if (isFull) return;
    isFull = data.frame - (blocks[0]?.frame ?? data.frame) > mostSeconds * context.sampleRate;
    if (isFull) onFull();
    else blocks.push(data);
  };
  source.connect(node);
  return {
    latencyMs: (late / context.sampleRate) * 1000,
    stop: (fromFrame) => {
      source.disconnect();
      node.port.onmessage = null;
      node.port.postMessage('end');
      const samples = takeOf(blocks, fromFrame === undefined ? (blocks[0]?.frame ?? 0) : Math.round(fromFrame) + late),
        wav = writeWav({ sampleRateHz: context.sampleRate, channels: [samples] }, 'float32');
      letGo();
      return new Blob([wav as BlobPart], { type: 'audio/wav' });
    },
  };
}
