/** A sounding or scheduled buffer with its own fades. */
export interface Voice {
  readonly id: string;
  readonly source: AudioBufferSourceNode;
  readonly gain: GainNode;
  readonly startFrame: number;
  /** Frame at which it has faded out; Infinity while it goes on. */
  endFrame: number;
}

export interface VoicePlan {
  readonly id: string;
  readonly buffer: AudioBuffer;
  readonly into: AudioNode;
  readonly startFrame: number;
  readonly endFrame: number;
  readonly offsetFrame: number;
  readonly cyclic: boolean;
  readonly fadeInFrames: number;
  readonly fadeOutFrames: number;
  readonly gainRatio: number;
}

/**
 * Schedules a buffer on whole frames: a `when` between frames would be interpolated and lose its highs. `endFrame` is where
 * the fade-out begins.
 */
export function startVoice(context: BaseAudioContext, plan: VoicePlan): Voice {
  const rate = context.sampleRate,
    gain = new GainNode(context, { gain: plan.fadeInFrames > 0 ? 0 : plan.gainRatio });
  const source = new AudioBufferSourceNode(context, { buffer: plan.buffer, loop: plan.cyclic });
  source.connect(gain).connect(plan.into);
  if (plan.fadeInFrames > 0) {
    gain.gain.setValueAtTime(0, plan.startFrame / rate);
    gain.gain.linearRampToValueAtTime(plan.gainRatio, (plan.startFrame + plan.fadeInFrames) / rate);
  }
  source.start(plan.startFrame / rate, (plan.offsetFrame % plan.buffer.length) / rate);
  const voice: Voice = { id: plan.id, source, gain, startFrame: plan.startFrame, endFrame: Infinity };
  if (Number.isFinite(plan.endFrame)) endVoice(voice, plan.endFrame, plan.fadeOutFrames, rate, plan.gainRatio);
  source.onended = () => {
    source.disconnect();
    gain.disconnect();
  };
  return voice;
}

/** Fades a voice out from `frame` on. */
export function endVoice(voice: Voice, frame: number, fadeFrames: number, rate: number, gainRatio: number): void {
  const from = Math.max(frame, voice.startFrame);
  voice.gain.gain.setValueAtTime(gainRatio, from / rate);
  voice.gain.gain.linearRampToValueAtTime(0, (from + fadeFrames) / rate);
  voice.source.stop((from + fadeFrames) / rate);
  voice.endFrame = from + fadeFrames;
}

/** Takes a voice out soon, whatever fades were planned for it. */
export function cutVoice(voice: Voice, frame: number, fadeFrames: number, rate: number): void {
  if (voice.endFrame <= frame + fadeFrames) return;
  const time = frame / rate;
  // A voice that has not begun is silent until then; one that sounds is faded from where it is.
  voice.gain.gain.cancelAndHoldAtTime(time);
  voice.gain.gain.linearRampToValueAtTime(0, (frame + fadeFrames) / rate);
  try {
    voice.source.stop((frame + fadeFrames) / rate);
  } catch {
    /* never started */
  }
  voice.endFrame = frame + fadeFrames;
}
