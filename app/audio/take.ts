/** A block of what the microphone heard. */
export interface Block {
  readonly frame: number;
  readonly samples: Float32Array;
}

/**
 * One take out of blocks: from a frame of the audio thread on, to the end of the last. What came before is left away, a block that is missing is
 * silence, so that everything lies where it was played.
 */
export function takeOf(blocks: readonly Block[], fromFrame: number): Float32Array {
  const end = blocks.reduce((latest, { frame, samples }) => Math.max(latest, frame + samples.length), fromFrame),
    take = new Float32Array(Math.max(0, end - fromFrame));
  for (const { frame, samples } of blocks) {
    const at = frame - fromFrame,
      from = Math.max(0, -at);
    if (from < samples.length) take.set(samples.subarray(from), at + from);
  }
  return take;
}

/** How late what is played is heard and comes back, in frames: out of the loudspeaker and in at the microphone. */
export const latencyFrames = (
  { baseLatency = 0, outputLatency = 0, sampleRate }: Pick<AudioContext, 'baseLatency' | 'outputLatency' | 'sampleRate'>,
  inputSeconds = 0,
): number => Math.round((baseLatency + outputLatency + inputSeconds) * sampleRate);
