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
const mostSeconds = 300;

/**
 * Records from the microphone or line input, one channel, as it comes.
 * @param shared the context in which the project plays, so that both count the same frames; left out, one of its own
 * @throws when there is no microphone, or it may not be used
 */
export async function recordSound(shared: AudioContext | null = null): Promise<Recording> {
  const stream = await navigator.mediaDevices.getUserMedia({
      audio: { echoCancellation: false, noiseSuppression: false, autoGainControl: false },
    }),
    context = shared ?? new AudioContext();
  await context.audioWorklet.addModule(recordUrl);
  const node = new AudioWorkletNode(context, 'record', { numberOfOutputs: 0 }),
    source = context.createMediaStreamSource(stream),
    [track] = stream.getAudioTracks(),
    late = latencyFrames(context, (track?.getSettings() as { latency?: number }).latency ?? 0),
    blocks: Block[] = [];
  node.port.onmessage = ({ data }: MessageEvent<Block>) => {
    if (data.frame - (blocks[0]?.frame ?? data.frame) <= mostSeconds * context.sampleRate) blocks.push(data);
  };
  source.connect(node);
  return {
    latencyMs: (late / context.sampleRate) * 1000,
    stop: (fromFrame) => {
      for (const each of stream.getTracks()) each.stop();
      source.disconnect();
      node.port.onmessage = null;
      node.port.postMessage('end');
      const samples = takeOf(blocks, fromFrame === undefined ? (blocks[0]?.frame ?? 0) : Math.round(fromFrame) + late),
        wav = writeWav({ sampleRateHz: context.sampleRate, channels: [samples] }, 'float32');
      if (!shared) void context.close();
      return new Blob([wav as BlobPart], { type: 'audio/wav' });
    },
  };
}
