/** How a clip comes up at its start and goes down at its end. Frames count from beat 0 of the project. */
export interface Envelope {
  readonly startFrame: number;
  readonly endFrame: number;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
}

/**
 * The gain ratio of an envelope at a frame. Quarter waves, so that where one clip goes down as another comes up the power stays the same
 * (common practice).
 */
export function envelopeGain({ startFrame, endFrame, fadeInFrames, fadeOutFrames }: Envelope, frame: number): number {
  const rise = fadeInFrames > 0 ? Math.min(1, Math.max(0, (frame - startFrame) / fadeInFrames)) : 1,
    fall = fadeOutFrames > 0 ? Math.min(1, Math.max(0, (endFrame - frame) / fadeOutFrames)) : 1;
  return Math.sin((rise * Math.PI) / 2) * Math.sin((fall * Math.PI) / 2);
}
